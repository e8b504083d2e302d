import { Link } from "react-router";
import { useSignOut } from "@/api/changes";
import type { KitchenView } from "@/api/types";
import { Tags } from "@/frame/tags";
import { altitude, temperature } from "@/lib/format";

/** The rail with its tags; at its right end the kitchen's own physics. */
export function Rail({ kitchen }: { kitchen: KitchenView | undefined }) {
  return (
    <div className="mx-auto flex max-w-[80rem] items-start justify-between px-5 wide:px-10 wide:pt-5">
      <div
        aria-hidden="true"
        className="absolute inset-x-0 top-4 hidden h-1.5 bg-line wide:block"
      />
      <nav aria-label="Screens" className="relative hidden wide:block">
        <Tags place="rail" />
      </nav>
      <Physics kitchen={kitchen} />
    </div>
  );
}

function Physics({ kitchen }: { kitchen: KitchenView | undefined }) {
  const signOut = useSignOut();
  return (
    <div className="relative flex w-full items-start justify-between gap-3 pt-1.5 text-base wide:w-auto wide:justify-end wide:pt-0">
      <Link
        to="/kitchen"
        className="flex min-w-0 gap-3 decoration-dotted underline-offset-4 hover:underline"
      >
        <svg width="24" height="72" aria-hidden="true" className="hidden shrink-0 wide:block">
          <path d="M12 0v22" stroke="var(--line)" strokeWidth="2" />
          <path
            d="M8 22h8v28a8 8 0 1 1-8 0z"
            fill="var(--paper)"
            stroke="var(--line)"
            strokeWidth="1.5"
          />
          <path d="M12 30v24" stroke="var(--hip)" strokeWidth="4" />
          <circle cx="12" cy="57" r="5" fill="var(--hip)" />
        </svg>
        <div className="flex min-w-0 flex-wrap items-baseline gap-x-2 wide:block wide:pt-4 wide:text-right">
          {kitchen && (
            <>
              <p>
                <span className="hidden wide:inline">{kitchen.name}, </span>
                {kitchen.altitude_m === null ? "altitude unknown" : altitude(kitchen.altitude_m)}
              </p>
              <p className="font-bold text-leaf">
                {kitchen.altitude_m === null
                  ? "enter the altitude first"
                  : `water boils at ${temperature(kitchen.boiling_point_c, 0.1)}`}
              </p>
            </>
          )}
        </div>
      </Link>
      <div className="flex shrink-0 gap-4 wide:block wide:pt-4">
        <Link
          to="/safety"
          className="block text-slate underline decoration-dotted underline-offset-4"
        >
          safety
        </Link>
        <button
          type="button"
          onClick={() => signOut.mutate()}
          className="text-slate underline decoration-dotted underline-offset-4"
        >
          sign out
        </button>
      </div>
    </div>
  );
}
