import { useQuery } from "@tanstack/react-query";
import { useEffect } from "react";
import { Outlet, useLocation } from "react-router";
import { useLive } from "@/api/live";
import { kitchenQuery, sessionQuery } from "@/api/queries";
import { HobRail } from "@/frame/hob-rail";
import { KeysHelp } from "@/frame/keys-help";
import { Rail } from "@/frame/rail";
import { Tags } from "@/frame/tags";
import { showIn } from "@/lib/units";
import { FOOT } from "@/ui/at-foot";
import { Waiting } from "@/ui/notice";
import { Welcome } from "@/welcome/welcome";

/** The frame of every screen: rail and tags, the kitchen's physics, the hob rail. */
export function Frame() {
  const session = useQuery(sessionQuery);
  if (session.isPending) return <Waiting />;
  if (!session.data?.name) return <Welcome session={session.data} />;
  return <SignedIn />;
}

function SignedIn() {
  useLive();
  const kitchen = useQuery(kitchenQuery);
  // A screen is drawn once the kitchen's units are known, and drawn anew where they change.
  showIn(kitchen.data?.units ?? "metric");
  const { pathname } = useLocation();
  // biome-ignore lint/correctness/useExhaustiveDependencies: every screen begins at its top
  useEffect(() => {
    window.scrollTo(0, 0);
  }, [pathname]);
  return (
    <div className="flex min-h-dvh flex-col">
      <a
        href="#main"
        className="sr-only focus:not-sr-only focus:absolute focus:z-50 focus:bg-paper focus:p-3"
      >
        To the page
      </a>
      <header className="relative border-line border-t-[6px] wide:border-t-0 print:hidden">
        <Rail kitchen={kitchen.data} />
      </header>
      <main
        id="main"
        tabIndex={-1}
        className="mx-auto w-full max-w-[80rem] flex-1 px-5 pt-3 pb-8 focus:outline-none wide:px-10 wide:pt-4"
      >
        {kitchen.isPending ? <Waiting /> : <Outlet key={kitchen.data?.units} />}
      </main>
      <footer className="sticky bottom-0 z-30 print:hidden">
        <div id={FOOT} />
        <HobRail />
        <nav aria-label="Screens" className="border-iron border-t-2 bg-iron wide:hidden">
          <Tags place="foot" />
        </nav>
      </footer>
      <KeysHelp />
    </div>
  );
}
