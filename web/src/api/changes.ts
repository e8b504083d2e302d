import { type QueryClient, useMutation, useQueryClient } from "@tanstack/react-query";
import { api, body, retryKey } from "@/api/client";
import { batchQuery, safetyQuery, sessionQuery } from "@/api/queries";
import type {
  BatchView,
  HouseholdCreate,
  OwnProcessCreate,
  PlanCreate,
  ReadingCreate,
  StepFinish,
} from "@/api/types";

/** Everything that can happen to a batch, as the presses on Cook say it. */
export type Change =
  | { act: "start"; step: number }
  | { act: "finish"; step: number; said: StepFinish }
  | { act: "more-time"; step: number; minutes: number; reason: string }
  | { act: "boil-reached"; step: number }
  | { act: "boil-lost"; step: number }
  | { act: "note"; step: number; what: "refilled" | "problem"; words: string }
  | { act: "reading"; step: number; reading: ReadingCreate }
  | {
      act: "seal";
      step: number;
      jar: number;
      held: boolean;
      wayOn?: "reprocess" | "chill" | "freeze";
    }
  | { act: "ending"; keep: "chill" | "freeze" };

type Headers = { "Idempotency-Key": string };

function send(batch: number, change: Change, headers: Headers): Promise<BatchView> {
  if (change.act === "ending") {
    const params = { path: { batch_id: batch } };
    const said = { keep: change.keep };
    return body(api.POST("/api/batches/{batch_id}/ending", { params, headers, body: said }));
  }
  const path = { batch_id: batch, step_id: change.step };
  const at = { params: { path }, headers };
  switch (change.act) {
    case "start":
      return body(api.POST("/api/batches/{batch_id}/steps/{step_id}/start", at));
    case "boil-reached":
      return body(api.POST("/api/batches/{batch_id}/steps/{step_id}/boil-reached", at));
    case "boil-lost":
      return body(api.POST("/api/batches/{batch_id}/steps/{step_id}/boil-lost", at));
    case "finish":
      return body(
        api.POST("/api/batches/{batch_id}/steps/{step_id}/finish", { ...at, body: change.said }),
      );
    case "more-time": {
      const { minutes, reason } = change;
      return body(
        api.POST("/api/batches/{batch_id}/steps/{step_id}/more-time", {
          ...at,
          body: { minutes, reason },
        }),
      );
    }
    case "note": {
      const { what, words } = change;
      return body(
        api.POST("/api/batches/{batch_id}/steps/{step_id}/notes", { ...at, body: { what, words } }),
      );
    }
    case "reading":
      return body(
        api.POST("/api/batches/{batch_id}/steps/{step_id}/readings", {
          ...at,
          body: change.reading,
        }),
      );
    case "seal":
      return body(
        api.POST("/api/batches/{batch_id}/steps/{step_id}/jars/{jar_id}/seal", {
          params: { path: { ...path, jar_id: change.jar } },
          headers,
          body: { held: change.held, way_on: change.wayOn ?? null },
        }),
      );
  }
}

function settle(client: QueryClient, batch: BatchView): Promise<void> {
  client.setQueryData(batchQuery(batch.id).queryKey, batch);
  void client.invalidateQueries({ queryKey: ["kitchen"] });
  return client.invalidateQueries({
    queryKey: ["live"],
    predicate: (q) => !(q.queryKey[1] === "batch" && q.queryKey[2] === batch.id),
  });
}

/** A change to a batch; the retry key is made once a press, so that retries are known. */
export function useChange(batch: number) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ change, key }: { change: Change; key: string }) =>
      send(batch, change, { "Idempotency-Key": key }),
    onSuccess: (after) => settle(client, after),
    onError: () => client.invalidateQueries({ queryKey: batchQuery(batch).queryKey }),
  });
}

export function useStartBatch() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ plan, key }: { plan: PlanCreate; key: string }) =>
      body(api.POST("/api/batches", { body: plan, headers: { "Idempotency-Key": key } })),
    onSuccess: (batch) => settle(client, batch),
  });
}

export function useEnterProcess() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (entered: OwnProcessCreate) =>
      body(api.POST("/api/own-processes", { body: entered })),
    onSuccess: (safety) => client.setQueryData(safetyQuery.queryKey, safety),
  });
}

export function useSignIn() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (as: { sign_in: string; password: string } | HouseholdCreate | "demo") => {
      if (as === "demo") return body(api.POST("/api/session/demo"));
      if ("household" in as) return body(api.POST("/api/session/household", { body: as }));
      return body(api.POST("/api/session", { body: as }));
    },
    onSuccess: async (session) => {
      client.removeQueries({ predicate: (q) => q.queryKey[0] !== "session" });
      client.setQueryData(sessionQuery.queryKey, session);
    },
  });
}

export function useSignOut() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: () => body(api.DELETE("/api/session")),
    onSuccess: () => client.resetQueries(),
  });
}

export { retryKey };
