import { type QueryClient, useMutation, useQueryClient } from "@tanstack/react-query";
import { api, body } from "@/api/client";
import { refresh } from "@/api/live";
import { batchQuery, kitchenQuery, safetyQuery, sessionQuery } from "@/api/queries";
import type {
  BatchView,
  FlowEdit,
  HouseholdCreate,
  IngredientCreate,
  KitchenUpdate,
  KitchenView,
  LotCreate,
  MarkAsk,
  MethodCreate,
  OwnProcessCreate,
  PlanCreate,
  Probe,
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
  | { act: "again"; step: number }
  | { act: "put-cold"; step: number }
  | { act: "acid"; step: number; line: string }
  | { act: "filled-now"; step: number; tempC: number }
  | { act: "water-back"; step: number; line: string }
  | {
      act: "note";
      step: number;
      what: "refilled" | "problem" | "bench" | "ping" | "shaken";
      words: string;
    }
  | { act: "reading"; step: number; reading: ReadingCreate }
  | { act: "trace"; step: number; text: string; probe: Probe }
  | {
      act: "seal";
      step: number;
      jar: number;
      held: boolean;
      wayOn?: "reprocess" | "chill" | "freeze";
    }
  | { act: "correct"; step: number; reading: number; value: number }
  | { act: "mishap"; step: number; what: string; amount?: string; jars?: number[] }
  | { act: "take-back" }
  | { act: "ending"; keep: "chill" | "freeze" }
  | { act: "give-up" };

function send(batch: number, change: Change): Promise<BatchView> {
  if (change.act === "ending") {
    const params = { path: { batch_id: batch } };
    const said = { keep: change.keep };
    return body(api.POST("/api/batches/{batch_id}/ending", { params, body: said }));
  }
  if (change.act === "give-up") {
    const params = { path: { batch_id: batch } };
    return body(api.POST("/api/batches/{batch_id}/give-up", { params }));
  }
  if (change.act === "take-back") {
    const params = { path: { batch_id: batch } };
    return body(api.POST("/api/batches/{batch_id}/take-back", { params }));
  }
  const path = { batch_id: batch, step_id: change.step };
  const at = { params: { path } };
  switch (change.act) {
    case "start":
      return body(api.POST("/api/batches/{batch_id}/steps/{step_id}/start", at));
    case "boil-reached":
      return body(api.POST("/api/batches/{batch_id}/steps/{step_id}/boil-reached", at));
    case "boil-lost":
      return body(api.POST("/api/batches/{batch_id}/steps/{step_id}/boil-lost", at));
    case "again":
      return body(api.POST("/api/batches/{batch_id}/steps/{step_id}/again", at));
    case "put-cold":
      return body(api.POST("/api/batches/{batch_id}/steps/{step_id}/put-cold", at));
    case "acid":
      return body(
        api.POST("/api/batches/{batch_id}/steps/{step_id}/acid", {
          ...at,
          body: { line: change.line },
        }),
      );
    case "filled-now":
      return body(
        api.POST("/api/batches/{batch_id}/steps/{step_id}/filled-now", {
          ...at,
          body: { temp_c: change.tempC },
        }),
      );
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
    case "mishap": {
      const { what, amount = "", jars = [] } = change;
      return body(
        api.POST("/api/batches/{batch_id}/steps/{step_id}/mishaps", {
          ...at,
          body: { what, amount, jars },
        }),
      );
    }
    case "water-back":
      return body(
        api.POST("/api/batches/{batch_id}/steps/{step_id}/water-back", {
          ...at,
          body: { line: change.line },
        }),
      );
    case "trace":
      return body(
        api.POST("/api/batches/{batch_id}/steps/{step_id}/trace", {
          ...at,
          body: { text: change.text, probe: change.probe },
        }),
      );
    case "reading":
      return body(
        api.POST("/api/batches/{batch_id}/steps/{step_id}/readings", {
          ...at,
          body: change.reading,
        }),
      );
    case "correct":
      return body(
        api.POST("/api/batches/{batch_id}/steps/{step_id}/readings/{reading_id}/correct", {
          params: { path: { ...path, reading_id: change.reading } },
          body: { value: change.value },
        }),
      );
    case "seal":
      return body(
        api.POST("/api/batches/{batch_id}/steps/{step_id}/jars/{jar_id}/seal", {
          params: { path: { ...path, jar_id: change.jar } },
          body: { held: change.held, way_on: change.wayOn ?? null },
        }),
      );
  }
}

/**
 * A batch as a change left it; what is still under way of how it was before comes too late. What
 * stands ready in the kitchen is asked for again where it is looked at next.
 */
async function settle(client: QueryClient, batch: BatchView): Promise<void> {
  const { queryKey } = batchQuery(batch.id);
  await client.cancelQueries({ queryKey });
  client.setQueryData(queryKey, (there) =>
    there && there.version > batch.version ? there : batch,
  );
  void client.invalidateQueries({ queryKey: ["kitchen"], refetchType: "none" });
  refresh(client, {
    predicate: (q) => !(q.queryKey[1] === "batch" && q.queryKey[2] === batch.id),
  });
}

/** A change to a batch. */
export function useChange(batch: number) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (change: Change) => send(batch, change),
    onSuccess: (after) => settle(client, after),
    onError: () => client.invalidateQueries({ queryKey: batchQuery(batch).queryKey }),
  });
}

export function useStartBatch() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (plan: PlanCreate) => body(api.POST("/api/batches", { body: plan })),
    onSuccess: (batch) => settle(client, batch),
  });
}

/** A mark on a scale; the answer is the line that serves it. */
export function useMark() {
  return useMutation({
    mutationFn: (mark: MarkAsk) => body(api.POST("/api/plans/marks", { body: mark })),
  });
}

/** Something that no list knows becomes the household's own; lines are read anew. */
export function useNameIngredient() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (named: IngredientCreate) => body(api.POST("/api/ingredients", { body: named })),
    onSuccess: () => client.invalidateQueries({ queryKey: ["lines"] }),
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

/** One change of a flow; the answer is the flow as it is then. */
export function useEditFlow() {
  return useMutation({
    mutationFn: (edit: FlowEdit) => body(api.POST("/api/flows", { body: edit })),
  });
}

export function useKeepMethod() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (kept: MethodCreate) => body(api.POST("/api/methods", { body: kept })),
    onSuccess: () => client.invalidateQueries({ queryKey: ["methods"] }),
  });
}

/** A change after which every screen that is live is asked again. */
export function useLive<Said, Answer>(
  send: (said: Said) => Promise<Answer>,
  onDone?: (answer: Answer) => void,
) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: send,
    onSuccess: (answer) => {
      refresh(client);
      onDone?.(answer);
    },
  });
}

export const useTakeIn = () =>
  useLive((lot: LotCreate) => body(api.POST("/api/lots", { body: lot })));

export const useThrowAway = () =>
  useLive((lot_id: number) =>
    body(api.DELETE("/api/lots/{lot_id}", { params: { path: { lot_id } } })),
  );

/** Things that stand in a kitchen, and where their rows are sent. */
export type Furnishing = "stations" | "vessels" | "places";

/** Every change of the kitchen; whatever it is, plans and tested times follow. */
export type KitchenChange =
  | { act: "kitchen"; sent: KitchenUpdate }
  | { act: "put"; what: Furnishing; id: number | null; sent: Record<string, unknown> }
  | { act: "drop"; what: Furnishing; id: number }
  | { act: "jars"; kind: string; jars: number; lids: number; packet: string }
  | { act: "lids"; kind: string; closure: string; colour: string; count: number; packet: string }
  | { act: "person"; sent: Record<string, unknown> }
  | { act: "hours"; id: number; start: string; end: string };

/** A password, of one's own or of somebody who forgot theirs. */
export type NewPassword = { person: number | null; old: string; password: string };

/** Another password; whoever used the old one is signed out. */
export function useNewPassword() {
  return useMutation({
    mutationFn: async ({ person, old, password }: NewPassword): Promise<void> => {
      if (person === null)
        await body(api.PUT("/api/session/password", { body: { old, password } }));
      else {
        const params = { path: { person_id: person } };
        await body(
          api.PUT("/api/kitchen/people/{person_id}/password", { params, body: { password } }),
        );
      }
    },
  });
}

/** Signs a person out everywhere: oneself where none is named. */
export function useSignOutEverywhere() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: async (person: number | null): Promise<void> => {
      if (person === null) await body(api.DELETE("/api/session/all"));
      else {
        const params = { path: { person_id: person } };
        await body(api.DELETE("/api/kitchen/people/{person_id}/sessions", { params }));
      }
    },
    onSuccess: (_, person) => (person === null ? client.resetQueries() : undefined),
  });
}

function furnish(change: KitchenChange): Promise<KitchenView> {
  switch (change.act) {
    case "kitchen":
      return body(api.PATCH("/api/kitchen", { body: change.sent }));
    case "jars": {
      const { kind, jars, lids, packet } = change;
      const params = { path: { kind } };
      return body(api.PUT("/api/kitchen/jars/{kind}", { params, body: { jars, lids, packet } }));
    }
    case "lids": {
      const { kind, closure, colour, count, packet } = change;
      return body(
        api.PUT("/api/kitchen/jars/{kind}/lids", {
          params: { path: { kind } },
          body: { closure: closure as "", colour, count, packet },
        }),
      );
    }
    case "person":
      return body(api.POST("/api/kitchen/people", { body: change.sent as never }));
    case "hours":
      return body(
        api.PUT("/api/kitchen/people/{person_id}/hours", {
          params: { path: { person_id: change.id } },
          body: { start: change.start, end: change.end },
        }),
      );
    case "drop":
      return body(api.DELETE(ONE[change.what], { params: byId(change.id) }));
    case "put":
      return put(change.what, change.id, change.sent as never);
  }
}

const ALL = {
  stations: "/api/kitchen/stations",
  vessels: "/api/kitchen/vessels",
  places: "/api/kitchen/places",
} as const;
const ONE = {
  stations: "/api/kitchen/stations/{station_id}",
  vessels: "/api/kitchen/vessels/{vessel_id}",
  places: "/api/kitchen/places/{place_id}",
} as const;
const byId = (id: number) => ({ path: { station_id: id, vessel_id: id, place_id: id } });

function put(what: Furnishing, id: number | null, sent: never): Promise<KitchenView> {
  return id === null
    ? body(api.POST(ALL[what], { body: sent }))
    : body(api.PUT(ONE[what], { params: byId(id), body: sent }));
}

export function useFurnish() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: furnish,
    onSuccess: (kitchen) => {
      client.setQueryData(kitchenQuery.queryKey, kitchen);
      for (const key of ["plan", "safety"]) void client.invalidateQueries({ queryKey: [key] });
      refresh(client);
    },
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
