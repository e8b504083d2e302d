import { createBrowserRouter } from "react-router";
import { Frame } from "@/frame/frame";
import { Trouble } from "@/frame/trouble";

export const router = createBrowserRouter([
  {
    path: "/",
    element: <Frame />,
    errorElement: <Trouble />,
    HydrateFallback: () => null,
    children: [
      { index: true, lazy: async () => ({ Component: (await import("@/today/today")).Today }) },
      {
        path: "plan/shopping",
        lazy: async () => ({ Component: (await import("@/plan/shopping")).Shopping }),
      },
      { path: "plan", lazy: async () => ({ Component: (await import("@/plan/plan")).Plan }) },
      {
        path: "methods",
        lazy: async () => ({ Component: (await import("@/methods/methods")).Methods }),
      },
      {
        path: "methods/:methodKey",
        lazy: async () => ({ Component: (await import("@/methods/method-page")).MethodPage }),
      },
      { path: "cook", lazy: async () => ({ Component: (await import("@/cook/list")).CookList }) },
      {
        path: "cook/:batchId",
        lazy: async () => ({ Component: (await import("@/cook/cook")).Cook }),
      },
      { path: "shelf", lazy: async () => ({ Component: (await import("@/shelf/shelf")).Shelf }) },
      {
        path: "shelf/labels",
        lazy: async () => ({ Component: (await import("@/shelf/labels")).Labels }),
      },
      {
        path: "shelf/already",
        lazy: async () => ({ Component: (await import("@/shelf/already")).Already }),
      },
      {
        path: "shelf/recall",
        lazy: async () => ({ Component: (await import("@/shelf/recall")).Recall }),
      },
      {
        path: "shelf/figures",
        lazy: async () => ({ Component: (await import("@/shelf/figures")).Figures }),
      },
      {
        path: "shelf/:jarId/drink",
        lazy: async () => ({ Component: (await import("@/shelf/drink")).Drink }),
      },
      {
        path: "shelf/:jarId",
        lazy: async () => ({ Component: (await import("@/shelf/jar-page")).JarPage }),
      },
      { path: "notes", lazy: async () => ({ Component: (await import("@/notes/notes")).Notes }) },
      {
        path: "notes/season/:year",
        lazy: async () => ({ Component: (await import("@/notes/season")).SeasonOnAPage }),
      },
      {
        path: "notes/:batchId",
        lazy: async () => ({ Component: (await import("@/notes/note-page")).NotePage }),
      },
      { path: "bench", lazy: async () => ({ Component: (await import("@/bench/bench")).Bench }) },
      {
        path: "bench/:sum",
        lazy: async () => ({ Component: (await import("@/bench/bench")).Bench }),
      },
      {
        path: "kitchen",
        lazy: async () => ({ Component: (await import("@/kitchen/kitchen")).Kitchen }),
      },
      {
        path: "kitchen/tables",
        lazy: async () => ({ Component: (await import("@/kitchen/tables")).Tables }),
      },
      {
        path: "safety",
        lazy: async () => ({ Component: (await import("@/safety/safety")).Safety }),
      },
      { path: "*", lazy: async () => ({ Component: (await import("@/frame/nowhere")).Nowhere }) },
    ],
  },
]);
