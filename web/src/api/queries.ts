import { infiniteQueryOptions, keepPreviousData, queryOptions } from "@tanstack/react-query";
import { api, body } from "@/api/client";
import type { AmountAsk, DrinkAsk, FlowEdit, FoundSaid, PlanCreate, RecallBy } from "@/api/types";

export const sessionQuery = queryOptions({
  queryKey: ["session"],
  queryFn: ({ signal }) => body(api.GET("/api/session", { signal })),
  staleTime: 60_000,
});

export const kitchenQuery = queryOptions({
  queryKey: ["kitchen"],
  queryFn: ({ signal }) => body(api.GET("/api/kitchen", { signal })),
  staleTime: 60_000,
});

export const safetyQuery = queryOptions({
  queryKey: ["safety"],
  queryFn: ({ signal }) => body(api.GET("/api/safety", { signal })),
  staleTime: 600_000,
});

export const hobQuery = queryOptions({
  queryKey: ["live", "hob"],
  queryFn: ({ signal }) => body(api.GET("/api/hob", { signal })),
  refetchInterval: 30_000,
});

export const stoveQuery = queryOptions({
  queryKey: ["live", "stove"],
  queryFn: ({ signal }) => body(api.GET("/api/stove", { signal })),
  refetchInterval: 30_000,
});

/** Finished batches in which words are found, so many at a time. */
export const notesQuery = (find: string) =>
  infiniteQueryOptions({
    queryKey: ["live", "notes", find],
    queryFn: ({ signal, pageParam }) =>
      body(
        api.GET("/api/notes", {
          signal,
          params: { query: { find, ...(pageParam ? { before: pageParam } : {}) } },
        }),
      ),
    initialPageParam: 0,
    getNextPageParam: (page) => (page.more ? page.seasons.at(-1)?.batches.at(-1)?.id : undefined),
    placeholderData: keepPreviousData,
  });

export const noteQuery = (id: number) =>
  queryOptions({
    queryKey: ["live", "note", id],
    queryFn: ({ signal }) =>
      body(api.GET("/api/notes/{batch_id}", { signal, params: { path: { batch_id: id } } })),
    retry: false,
  });

/** The season of a year on one page. */
export const seasonQuery = (year: number) =>
  queryOptions({
    queryKey: ["live", "season", year],
    queryFn: ({ signal }) =>
      body(api.GET("/api/notes/seasons/{year}", { signal, params: { path: { year } } })),
  });

/** What a plan still needs. */
export const shoppingQuery = (asked: PlanCreate) =>
  queryOptions({
    queryKey: ["live", "shopping", asked],
    queryFn: ({ signal }) => body(api.POST("/api/plans/shopping", { signal, body: asked })),
  });

export const todayQuery = queryOptions({
  queryKey: ["live", "today"],
  queryFn: ({ signal }) => body(api.GET("/api/today", { signal })),
  refetchInterval: 60_000,
});

export const batchesQuery = queryOptions({
  queryKey: ["live", "batches"],
  queryFn: ({ signal }) => body(api.GET("/api/batches", { signal })),
});

export const batchQuery = (id: number) =>
  queryOptions({
    queryKey: ["live", "batch", id],
    queryFn: ({ signal }) =>
      body(api.GET("/api/batches/{batch_id}", { signal, params: { path: { batch_id: id } } })),
    refetchInterval: 30_000,
  });

export const besideQuery = (id: number, other: number) =>
  queryOptions({
    queryKey: ["live", "beside", id, other],
    queryFn: ({ signal }) =>
      body(
        api.GET("/api/batches/{batch_id}/beside/{other_id}", {
          signal,
          params: { path: { batch_id: id, other_id: other } },
        }),
      ),
    retry: false,
  });

export const planQuery = (asked: PlanCreate) =>
  queryOptions({
    queryKey: ["plan", asked],
    queryFn: ({ signal }) => body(api.POST("/api/plans", { signal, body: asked })),
    placeholderData: keepPreviousData,
    staleTime: 30_000,
  });

/** What lines say of jars that were there already, as they are typed. */
export const foundQuery = (lines: FoundSaid[]) =>
  queryOptions({
    queryKey: ["found", lines],
    queryFn: ({ signal }) => body(api.POST("/api/found/lines", { signal, body: { lines } })),
    placeholderData: keepPreviousData,
    enabled: lines.length > 0,
  });

/** What jars that were there already may be in and hold. */
export const foundChoicesQuery = queryOptions({
  queryKey: ["found", "choices"],
  queryFn: ({ signal }) => body(api.GET("/api/found/choices", { signal })),
  staleTime: 600_000,
});

/** The tables that can come in, with their columns. */
export const tablesQuery = queryOptions({
  queryKey: ["tables"],
  queryFn: ({ signal }) => body(api.GET("/api/keeping/tables", { signal })),
  staleTime: 600_000,
});

/** What lines are understood to be, as they are typed. */
export const linesQuery = (lines: string[]) =>
  queryOptions({
    queryKey: ["lines", lines],
    queryFn: ({ signal }) => body(api.POST("/api/lines", { signal, body: { lines } })),
    placeholderData: keepPreviousData,
    staleTime: 600_000,
  });

/** What an amount comes to that is said as one says it. */
export const amountQuery = (text: string, quantity: AmountAsk["quantity"]) =>
  queryOptions({
    queryKey: ["amounts", quantity, text],
    queryFn: ({ signal }) => body(api.POST("/api/amounts", { signal, body: { text, quantity } })),
    placeholderData: keepPreviousData,
    staleTime: 600_000,
  });

/** The shelf: of each place the stacks in front, those that are looked for; as many as are asked. */
export const shelfQuery = (find: string, most?: number) =>
  queryOptions({
    queryKey: ["live", "shelf", find, most],
    queryFn: ({ signal }) =>
      body(api.GET("/api/shelf", { signal, params: { query: { find, ...(most && { most }) } } })),
    placeholderData: keepPreviousData,
  });

export const jarQuery = (id: number) =>
  queryOptions({
    queryKey: ["live", "jar", id],
    queryFn: ({ signal }) =>
      body(api.GET("/api/jars/{jar_id}", { signal, params: { path: { jar_id: id } } })),
  });

/** A stack in hand. */
export const stackQuery = (id: number) =>
  queryOptions({
    queryKey: ["live", "stack", id],
    queryFn: ({ signal }) =>
      body(api.GET("/api/stacks/{stack_id}", { signal, params: { path: { stack_id: id } } })),
    retry: false,
    placeholderData: keepPreviousData,
  });

/** What may be wrong with a jar, as it is seen. */
export const signsQuery = queryOptions({
  queryKey: ["signs"],
  queryFn: ({ signal }) => body(api.GET("/api/signs", { signal })),
  staleTime: Number.POSITIVE_INFINITY,
});

/** How a drink is made of a jar, as it is asked for. */
export const drinkQuery = (id: number, asked: DrinkAsk) =>
  queryOptions({
    queryKey: ["live", "drink", id, asked],
    queryFn: ({ signal }) =>
      body(
        api.POST("/api/jars/{jar_id}/drink", {
          signal,
          params: { path: { jar_id: id } },
          body: asked,
        }),
      ),
    retry: false,
    placeholderData: keepPreviousData,
  });

/** Drinks that were written down. */
export const servingsQuery = queryOptions({
  queryKey: ["live", "servings"],
  queryFn: ({ signal }) => body(api.GET("/api/servings", { signal })),
});

/** Sheets and rolls that labels are printed on. */
export const labelSheetsQuery = queryOptions({
  queryKey: ["label sheets"],
  queryFn: ({ signal }) => body(api.GET("/api/labels/sheets", { signal })),
  staleTime: Number.POSITIVE_INFINITY,
});

/** Labels of jars as they will be printed. */
export const labelsQuery = (jar: number[]) =>
  queryOptions({
    queryKey: ["live", "labels", jar],
    queryFn: ({ signal }) => body(api.GET("/api/labels", { signal, params: { query: { jar } } })),
    retry: false,
  });

/** What jars can be recalled by. */
export const recallKnownQuery = queryOptions({
  queryKey: ["live", "recall", "known"],
  queryFn: ({ signal }) => body(api.GET("/api/recall/known", { signal })),
});

/** Every jar that came of something. */
export const recallQuery = (by: RecallBy, what: string) =>
  queryOptions({
    queryKey: ["live", "recall", by, what],
    queryFn: ({ signal }) =>
      body(api.GET("/api/recall", { signal, params: { query: { by, what } } })),
    enabled: what !== "",
  });

/** What the shelf came to, at some prices. */
export const figuresQuery = (prices: Record<"lid" | "kwh" | "hour" | "bought", number>) =>
  queryOptions({
    queryKey: ["live", "figures", prices],
    queryFn: ({ signal }) => body(api.GET("/api/figures", { signal, params: { query: prices } })),
    placeholderData: keepPreviousData,
  });

export const methodsQuery = (fruit: string, form: string) =>
  queryOptions({
    queryKey: ["methods", fruit, form],
    queryFn: ({ signal }) =>
      body(api.GET("/api/methods", { signal, params: { query: { fruit, form } } })),
    staleTime: 60_000,
  });

export const lotsQuery = queryOptions({
  queryKey: ["live", "lots"],
  queryFn: ({ signal }) => body(api.GET("/api/lots", { signal })),
});

/** What each choice at a step costs and buys. */
export const costsQuery = (plan: PlanCreate, step: string) =>
  queryOptions({
    queryKey: ["plan", "costs", step, plan],
    queryFn: ({ signal }) => body(api.POST("/api/plans/costs", { signal, body: { plan, step } })),
    placeholderData: keepPreviousData,
    staleTime: 30_000,
  });

/** What could sweeten instead of a line of what goes in. */
export const swapsQuery = (plan: PlanCreate, place: number) =>
  queryOptions({
    queryKey: ["plan", "sweeteners", place, plan],
    queryFn: ({ signal }) =>
      body(api.POST("/api/plans/sweeteners", { signal, body: { plan, place } })),
    staleTime: 30_000,
  });

/** The steps that could be done to a lot. */
export const followingQuery = (edit: FlowEdit) =>
  queryOptions({
    queryKey: ["flows", edit],
    queryFn: ({ signal }) => body(api.POST("/api/flows", { signal, body: edit })),
    staleTime: 600_000,
  });

export const effectQuery = (altitude_m: number | null, pressure_hpa: number | null) =>
  queryOptions({
    queryKey: ["effect", altitude_m, pressure_hpa],
    queryFn: ({ signal }) =>
      body(api.POST("/api/kitchen/effect", { signal, body: { altitude_m, pressure_hpa } })),
    placeholderData: keepPreviousData,
    staleTime: 600_000,
    retry: false,
  });
