import { infiniteQueryOptions, keepPreviousData, queryOptions } from "@tanstack/react-query";
import { api, body } from "@/api/client";
import type { AmountAsk, FlowEdit, PlanCreate } from "@/api/types";

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

export const todayQuery = queryOptions({
  queryKey: ["live", "today"],
  queryFn: ({ signal }) => body(api.GET("/api/today", { signal })),
  refetchInterval: 60_000,
});

export const batchesQuery = queryOptions({
  queryKey: ["live", "batches"],
  queryFn: ({ signal }) => body(api.GET("/api/batches", { signal })),
});

/** Finished batches that come after those that are listed, so many at a time. */
export const earlierBatchesQuery = (before: number) =>
  infiniteQueryOptions({
    queryKey: ["live", "batches", "before", before],
    queryFn: ({ signal, pageParam }) =>
      body(api.GET("/api/batches", { signal, params: { query: { before: pageParam } } })),
    initialPageParam: before,
    getNextPageParam: (page) => (page.length < BATCHES_AT_A_TIME ? undefined : page.at(-1)?.id),
    enabled: false,
  });

/** How many finished batches a list holds when there may be more. */
export const BATCHES_AT_A_TIME = 40;

export const batchQuery = (id: number) =>
  queryOptions({
    queryKey: ["live", "batch", id],
    queryFn: ({ signal }) =>
      body(api.GET("/api/batches/{batch_id}", { signal, params: { path: { batch_id: id } } })),
    refetchInterval: 30_000,
  });

export const planQuery = (asked: PlanCreate) =>
  queryOptions({
    queryKey: ["plan", asked],
    queryFn: ({ signal }) => body(api.POST("/api/plans", { signal, body: asked })),
    placeholderData: keepPreviousData,
    staleTime: 30_000,
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

/** The shelf: of each place the jars in front, those that words are found in, so many at most. */
export const shelfQuery = (find: string, most: number) =>
  queryOptions({
    queryKey: ["live", "shelf", find, most],
    queryFn: ({ signal }) =>
      body(api.GET("/api/shelf", { signal, params: { query: { find, most } } })),
    placeholderData: keepPreviousData,
  });

export const jarQuery = (id: number) =>
  queryOptions({
    queryKey: ["live", "jar", id],
    queryFn: ({ signal }) =>
      body(api.GET("/api/jars/{jar_id}", { signal, params: { path: { jar_id: id } } })),
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
