import { keepPreviousData, queryOptions } from "@tanstack/react-query";
import { api, body } from "@/api/client";
import type { AmountAsk, FlowEdit, PlanCreate } from "@/api/types";

export const sessionQuery = queryOptions({
  queryKey: ["session"],
  queryFn: () => body(api.GET("/api/session")),
  staleTime: 60_000,
});

export const kitchenQuery = queryOptions({
  queryKey: ["kitchen"],
  queryFn: () => body(api.GET("/api/kitchen")),
  staleTime: 60_000,
});

export const safetyQuery = queryOptions({
  queryKey: ["safety"],
  queryFn: () => body(api.GET("/api/safety")),
  staleTime: 600_000,
});

export const hobQuery = queryOptions({
  queryKey: ["live", "hob"],
  queryFn: () => body(api.GET("/api/hob")),
  refetchInterval: 30_000,
});

export const todayQuery = queryOptions({
  queryKey: ["live", "today"],
  queryFn: () => body(api.GET("/api/today")),
  refetchInterval: 60_000,
});

export const batchesQuery = queryOptions({
  queryKey: ["live", "batches"],
  queryFn: () => body(api.GET("/api/batches")),
});

export const batchQuery = (id: number) =>
  queryOptions({
    queryKey: ["live", "batch", id],
    queryFn: () => body(api.GET("/api/batches/{batch_id}", { params: { path: { batch_id: id } } })),
    refetchInterval: 30_000,
  });

export const planQuery = (asked: PlanCreate) =>
  queryOptions({
    queryKey: ["plan", asked],
    queryFn: () => body(api.POST("/api/plans", { body: asked })),
    placeholderData: keepPreviousData,
    staleTime: 30_000,
  });

/** What lines are understood to be, as they are typed. */
export const linesQuery = (lines: string[]) =>
  queryOptions({
    queryKey: ["lines", lines],
    queryFn: () => body(api.POST("/api/lines", { body: { lines } })),
    placeholderData: keepPreviousData,
    staleTime: 600_000,
  });

/** What an amount comes to that is said as one says it. */
export const amountQuery = (text: string, quantity: AmountAsk["quantity"]) =>
  queryOptions({
    queryKey: ["amounts", quantity, text],
    queryFn: () => body(api.POST("/api/amounts", { body: { text, quantity } })),
    placeholderData: keepPreviousData,
    staleTime: 600_000,
  });

export const shelfQuery = queryOptions({
  queryKey: ["live", "shelf"],
  queryFn: () => body(api.GET("/api/shelf")),
});

export const jarQuery = (id: number) =>
  queryOptions({
    queryKey: ["live", "jar", id],
    queryFn: () => body(api.GET("/api/jars/{jar_id}", { params: { path: { jar_id: id } } })),
  });

export const methodsQuery = (fruit: string, form: string) =>
  queryOptions({
    queryKey: ["methods", fruit, form],
    queryFn: () => body(api.GET("/api/methods", { params: { query: { fruit, form } } })),
    staleTime: 60_000,
  });

export const lotsQuery = queryOptions({
  queryKey: ["live", "lots"],
  queryFn: () => body(api.GET("/api/lots")),
});

/** What each choice at a step costs and buys. */
export const costsQuery = (plan: PlanCreate, step: string) =>
  queryOptions({
    queryKey: ["plan", "costs", step, plan],
    queryFn: () => body(api.POST("/api/plans/costs", { body: { plan, step } })),
    placeholderData: keepPreviousData,
    staleTime: 30_000,
  });

/** What could sweeten instead of a line of what goes in. */
export const swapsQuery = (plan: PlanCreate, place: number) =>
  queryOptions({
    queryKey: ["plan", "sweeteners", place, plan],
    queryFn: () => body(api.POST("/api/plans/sweeteners", { body: { plan, place } })),
    staleTime: 30_000,
  });

/** The steps that could be done to a lot. */
export const followingQuery = (edit: FlowEdit) =>
  queryOptions({
    queryKey: ["flows", edit],
    queryFn: () => body(api.POST("/api/flows", { body: edit })),
    staleTime: 600_000,
  });

export const effectQuery = (altitude_m: number | null, pressure_hpa: number | null) =>
  queryOptions({
    queryKey: ["effect", altitude_m, pressure_hpa],
    queryFn: () => body(api.POST("/api/kitchen/effect", { body: { altitude_m, pressure_hpa } })),
    placeholderData: keepPreviousData,
    staleTime: 600_000,
    retry: false,
  });
