import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { useLive } from "@/api/changes";
import { api, body } from "@/api/client";
import { drinkQuery, jarQuery, kitchenQuery, servingsQuery } from "@/api/queries";
import type { DrinkAsk, DrinkView } from "@/api/types";
import { count, litres, mass, plain } from "@/lib/format";
import { Button } from "@/ui/button";
import { Choice } from "@/ui/choice";
import { NumberField, parse, TextField } from "@/ui/field";
import { Said, Waiting } from "@/ui/notice";
import { Pick } from "@/ui/pick";

const WITH = ["water", "sparkling water", "tea", "apple juice", "wine"];
const A_GUEST = 2;
const JUG_ML = 1500;
const A_GLASS_ML = 250;
/** How sweet the drink is wished [°Bx]; as usual is what the core holds for usual. */
const SWEETER = { "less sweet": 8.5, "as usual": null, sweeter: 13 } as const;
type Size = "glass" | "jug" | "guests";

/** A drink out of a jar: how much of what, for a glass, a jug or guests. */
export function Drink() {
  const id = Number(useParams().jarId);
  const page = useQuery(jarQuery(id)).data;
  const usual = useQuery(servingsQuery).data ?? [];
  const [size, setSize] = useState<Size>("glass");
  const [guests, setGuests] = useState("6");
  const [sweet, setSweet] = useState<keyof typeof SWEETER>("as usual");
  const [ice, setIce] = useState("");
  const [more, setMore] = useState<Partial<DrinkAsk>>({ diluent: "water" });
  const [lines, setLines] = useState("");
  const glass = useQuery(kitchenQuery).data?.glass_ml ?? A_GLASS_ML;
  const ml =
    size === "glass" ? glass : size === "jug" ? JUG_ML : glass * A_GUEST * (parse(guests) || 1);
  const asked: DrinkAsk = {
    ml,
    diluent: more.diluent ?? "water",
    ...(SWEETER[sweet] ? { brix: SWEETER[sweet] } : {}),
    ice_g: Math.max(0, parse(ice) || 0),
    in_it: lines
      .split(",")
      .map((l) => l.trim())
      .filter(Boolean),
  };
  const drink = useQuery(drinkQuery(id, asked));
  if (!page) return <Waiting />;
  const again = (said: DrinkAsk) => {
    setMore({ diluent: said.diluent ?? "water" });
    setLines((said.in_it ?? []).join(", "));
    setIce(said.ice_g ? String(said.ice_g) : "");
  };
  return (
    <div className="grid max-w-5xl items-start gap-x-12 gap-y-6 wide:grid-cols-[1fr_24rem]">
      <div className="grid gap-4">
        <div>
          <h1 className="text-3xl">A drink of {page.jar.label.toLowerCase()}</h1>
          <p className="text-lg text-slate">
            <Link to={`/shelf/${id}`} className="underline underline-offset-4">
              {page.jar.code}
            </Link>
            , {litres(page.jar.left_ml)} in it
          </p>
        </div>
        {usual.length > 0 && (
          <div>
            <p className="text-base text-slate">As before</p>
            <div className="flex flex-wrap gap-2">
              {usual.map((s) => (
                <Button
                  key={s.name}
                  size="small"
                  onClick={() => again(s.asked as unknown as DrinkAsk)}
                >
                  {s.name}
                </Button>
              ))}
            </div>
          </div>
        )}
        <Choice
          label="For"
          value={size}
          onChange={setSize}
          options={[
            { value: "glass", label: "a glass" },
            { value: "jug", label: "a jug" },
            { value: "guests", label: "guests" },
          ]}
        />
        {size === "guests" && (
          <NumberField
            label={`How many, ${A_GUEST} glasses each`}
            unit=""
            value={guests}
            onChange={setGuests}
          />
        )}
        <Pick
          label="With"
          value={more.diluent ?? "water"}
          items={WITH.map((w) => ({ value: w, label: w }))}
          onChange={(diluent) => setMore({ diluent })}
        />
        <Choice
          label="Sweet"
          value={sweet}
          onChange={setSweet}
          options={Object.keys(SWEETER).map((k) => ({
            value: k as keyof typeof SWEETER,
            label: k,
          }))}
        />
        <NumberField label="Ice" unit="g" value={ice} onChange={setIce} placeholder="none" />
        <TextField
          label="In the glass besides"
          value={lines}
          onChange={setLines}
          placeholder="2 sprigs of mint, 20 ml vodka, 1 tsp grated ginger"
          error={drink.error ? drink.error.message : undefined}
        />
      </div>
      {drink.data && !drink.error && (
        <Made key={id} drink={drink.data} asked={asked} id={id} colour={page.jar.colour} />
      )}
    </div>
  );
}

type MadeProps = { drink: DrinkView; asked: DrinkAsk; id: number; colour: string };

/** What goes in, drawn to its height, and the press that pours it. */
function Made({ drink, asked, id, colour }: MadeProps) {
  const [name, setName] = useState("");
  const navigate = useNavigate();
  const pour = useLive(
    (_: null) =>
      body(
        api.POST("/api/jars/{jar_id}/servings", {
          params: { path: { jar_id: id } },
          body: { ...asked, name },
        }),
      ),
    () => void navigate(`/shelf/${id}`),
  );
  const short = drink.base_ml > drink.left_ml + 5;
  return (
    <section aria-label="What goes in" className="border-2 border-line bg-paper p-5">
      <div className="flex gap-6">
        <Layers drink={drink} colour={colour} />
        <ul className="text-xl leading-relaxed">
          <li>
            <b>{litres(drink.base_ml)}</b> out of the jar
          </li>
          {drink.diluent_ml > 0 && (
            <li>
              <b>{litres(drink.diluent_ml)}</b> {asked.diluent}
            </li>
          )}
          {drink.sugar_g > 0 && (
            <li>
              <b>{mass(drink.sugar_g)}</b> sugar, stirred in
            </li>
          )}
          {(asked.ice_g ?? 0) > 0 && (
            <li>
              <b>{mass(asked.ice_g)}</b> ice
            </li>
          )}
          {asked.in_it?.map((line) => (
            <li key={line}>{line}</li>
          ))}
        </ul>
      </div>
      <p className="mt-3 text-lg text-slate">
        {drink.diluent_ml > 0 &&
          `1 : ${plain((drink.diluent_ml + drink.melt_ml) / drink.base_ml)}, else too ${drink.limited_by}. `}
        {drink.sugar_g > 0
          ? `Without the sugar ${plain(drink.brix)} °Bx`
          : `${plain(drink.brix)} °Bx`}
        , {plain(drink.acid_g_l)} g/l of acid
        {drink.alcohol_pct >= 0.5 ? `, ${plain(drink.alcohol_pct)} % vol` : ""};{" "}
        {count(Math.max(1, Math.round(drink.glasses)), "glass", "glasses")}.
      </p>
      {drink.notes.map((note) => (
        <p key={note} className="mt-2 border-brass border-l-6 pl-3 text-lg">
          {note}
        </p>
      ))}
      {short ? (
        <p className="mt-3 font-bold text-hip text-lg">
          That takes {count(drink.jars, "jar")} like it; this one holds {litres(drink.left_ml)}.
        </p>
      ) : (
        <form
          className="mt-4 grid gap-3"
          onSubmit={(e) => {
            e.preventDefault();
            pour.mutate(null);
          }}
        >
          <TextField
            label="Written down as"
            value={name}
            onChange={setName}
            placeholder="evening glass"
          />
          <Button kind="go" type="submit" disabled={name.trim() === "" || pour.isPending}>
            Pour it
          </Button>
          <Said error={pour.error} />
        </form>
      )}
    </section>
  );
}

const TALL = 190;

/** A glass with what goes in, each as high as its part. */
function Layers({ drink, colour }: { drink: DrinkView; colour: string }) {
  const all = drink.base_ml + drink.diluent_ml + drink.melt_ml;
  const base = (TALL * 0.86 * drink.base_ml) / all;
  const rest = TALL * 0.86 - base;
  return (
    <svg width="120" height={TALL + 8} viewBox={`0 0 120 ${TALL + 8}`} aria-hidden="true">
      <path d={`M18 ${TALL - base}H102V${TALL}H18Z`} fill={colour} />
      <path d={`M18 ${TALL - base - rest}H102V${TALL - base}H18Z`} fill={colour} opacity="0.28" />
      <path d={`M16 4V${TALL + 2}H104V4`} fill="none" stroke="var(--line)" strokeWidth="3" />
    </svg>
  );
}
