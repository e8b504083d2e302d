import { useCallback } from "react";
import { NavLink, useNavigate } from "react-router";
import { useKey } from "@/lib/use-key";

const SCREENS = [
  { to: "/", name: "Today", number: 1 },
  { to: "/plan", name: "Plan", number: 2 },
  { to: "/cook", name: "Cook", number: 3 },
  { to: "/shelf", name: "Shelf", number: 4 },
  { to: "/notes", name: "Notes", number: 5 },
  { to: "/bench", name: "Bench", number: 6 },
];

function Shortcut({ to, number }: { to: string; number: string }) {
  const navigate = useNavigate();
  const go = useCallback(() => void navigate(to), [navigate, to]);
  useKey(number, go);
  return null;
}

/** Paper jar-tags on strings: from the rail on a wide page, upside up along the foot of a phone. */
export function Tags({ place }: { place: "rail" | "foot" }) {
  return (
    <ul className={place === "rail" ? "flex gap-3" : "flex items-end gap-1.5 px-1.5 pt-2"}>
      {SCREENS.map((s) => (
        <li key={s.to} className={place === "rail" ? "" : "flex-1"}>
          {place === "rail" && <Shortcut to={s.to} number={String(s.number)} />}
          <NavLink to={s.to} end={s.to === "/"} className="group block">
            {({ isActive }) =>
              place === "rail" ? (
                <Hanging name={s.name} number={s.number} open={isActive} />
              ) : (
                <Standing name={s.name} open={isActive} />
              )
            }
          </NavLink>
        </li>
      ))}
    </ul>
  );
}

function Hanging({ name, number, open }: { name: string; number: number; open: boolean }) {
  const string = open ? 30 : 14;
  return (
    <span className="relative block h-20 w-26">
      <svg width="104" height="80" aria-hidden="true" className="absolute inset-0">
        <path d={`M52 0V${string + 9}`} stroke="var(--line)" strokeWidth="2" />
        <path
          d={`M14 ${string}H90L103 ${string + 12}V${string + 47}H1V${string + 12}Z`}
          fill={open ? "var(--paper)" : "var(--tag)"}
          stroke="var(--line)"
          strokeWidth={open ? 2.5 : 1.5}
        />
        <circle
          cx="52"
          cy={string + 9}
          r="4"
          fill="var(--linen)"
          stroke="var(--line)"
          strokeWidth="1.5"
        />
      </svg>
      <span
        style={{ top: string + 14 }}
        className={`absolute inset-x-0 text-center font-bold font-display text-xl group-hover:underline ${open ? "text-elder" : ""}`}
      >
        {name}
      </span>
      <span
        aria-hidden="true"
        style={{ top: string + 26 }}
        className="absolute right-2 font-text text-sm text-slate"
      >
        {number}
      </span>
    </span>
  );
}

function Standing({ name, open }: { name: string; open: boolean }) {
  return (
    <span
      className={`relative block border-2 border-b-0 border-line pt-5 pb-3 text-center font-bold font-display text-lg [clip-path:polygon(12%_0,88%_0,100%_14px,100%_100%,0_100%,0_14px)] ${open ? "-mt-2 bg-paper pb-5 text-elder" : "bg-tag"}`}
    >
      <span
        aria-hidden="true"
        className="absolute top-1.5 left-1/2 size-2.5 -translate-x-1/2 rounded-full border-2 border-line bg-linen"
      />
      {name}
    </span>
  );
}
