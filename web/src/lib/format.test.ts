import { afterEach, describe, expect, it } from "vitest";
import {
  altitude,
  clock,
  count,
  date,
  jarsOf,
  litres,
  mass,
  minutes,
  moment,
  plain,
  range,
  room,
  short,
  spoken,
  temperature,
  timeOfDay,
  untilDate,
} from "@/lib/format";
import { measureOf, showIn, shown, typed } from "@/lib/units";

const VIENNA = "Europe/Vienna";
const NOON = new Date("2026-11-25T11:00:00Z").getTime();

afterEach(() => showIn("metric"));

describe("figures as a cook says them", () => {
  it.each([
    [0.04, undefined, "0.0"],
    [12.34, undefined, "12.3"],
    [99.94, undefined, "99.9"],
    [99.96, undefined, "100"],
    [1234.5, undefined, "1235"],
    [3.046, 0.01, "3.05"],
    [437, 10, "440"],
    [null, undefined, "–"],
    [Number.NaN, undefined, "–"],
  ])("%s by steps of %s is %s", (value, step, words) => {
    expect(plain(value, step)).toBe(words);
  });

  it("leaves an empty decimal away", () => {
    expect([short(8), short(12.5), short(undefined)]).toEqual(["8", "12.5", "–"]);
  });

  it.each([
    [0, "0.0 l"],
    [444, "440 ml"],
    [994, "990 ml"],
    [996, "1.0 l"],
    [12_340, "12.3 l"],
    [null, "–"],
  ])("%s ml is %s", (ml, words) => expect(litres(ml)).toBe(words));

  it.each([
    [3, "3 g"],
    [1.3, "1.5 g"],
    [12.4, "12 g"],
    [412, "410 g"],
    [1000, "1.0 kg"],
    [undefined, "–"],
  ])("%s g is %s", (grams, words) => expect(mass(grams)).toBe(words));

  it("says a range once where both ends read the same", () => {
    expect(range({ lo: 2.51, typ: 2.52, hi: 2.54 })).toBe("2.5");
    expect(range({ lo: 10.5, typ: 12, hi: 14.4 })).toBe("10.5 to 14.4");
    expect(range({ lo: 4200, typ: 5000, hi: 5800 }, 0.001)).toBe("4.2 to 5.8");
    expect(range(null)).toBe("–");
  });
});

describe("a kitchen that weighs in pounds", () => {
  it.each([
    ["us", 946.353, "1.0 qt"],
    ["imperial", 1136.523, "2.0 pt"],
    ["metric", 1000, "1.0 l"],
  ])("in %s %s ml is %s", (system, ml, words) => {
    showIn(system);
    expect(litres(ml)).toBe(words);
  });

  it("weighs in pounds and ounces", () => {
    showIn("us");
    expect([mass(4535.92), mass(200), mass(3)]).toEqual(["10.0 lb", "7 oz", "3 g"]);
  });

  it.each([
    ["metric", ["88 °C", "13 mm", "585 m"]],
    ["us", ["190 °F", "1/2 in", "1919 ft"]],
    ["imperial", ["88 °C", "1/2 in", "1919 ft"]],
  ])("in %s degrees, room and height are its own", (system, words) => {
    showIn(system);
    expect([temperature(88), room(13), altitude(585)]).toEqual(words);
  });

  it.each(["metric", "us", "imperial"])("in %s what is typed is what was shown", (system) => {
    showIn(system);
    for (const quantity of ["volume_ml", "mass_g", "temp_c", "depth_cm", "brix"]) {
      const measure = measureOf(quantity);
      expect(typed(shown(37.5, measure), measure)).toBeCloseTo(37.5, 9);
    }
  });

  it("expects a temperature in the degrees it is read in", () => {
    showIn("us");
    const about = { lo: 88, typ: 90, hi: 95, evidence: "typical" as const };
    expect(spoken(about, "temp_c", "°C")).toBe("190 to 203 °F");
    expect(room(25.4)).toBe("1 in");
  });

  it("takes a system it does not know for metric", () => {
    showIn("furlongs");
    expect(mass(2000)).toBe("2.0 kg");
  });
});

describe("time", () => {
  it.each([
    [0.4, "0 min"],
    [59.4, "59 min"],
    [60, "1 h"],
    [190, "3 h 10"],
    [725, "12 h 05"],
    [2879, "47 h 59"],
    [2880, "2 d"],
    [10_110, "7 d 1 h"],
  ])("%s minutes are %s, on one line", (m, words) =>
    expect(minutes(m)).toBe(words.replaceAll(" ", "\u00a0")),
  );

  it.each([
    [1104, "18:24"],
    [59, "0:59"],
    [7500, "2:05:00"],
    [-61, "1:01"],
    [172_799, "47:59:59"],
    [288_025, "3 d 8 h"],
  ])("%s seconds are %s", (s, words) => expect(clock(s)).toBe(words.replaceAll(" ", "\u00a0")));

  it("is told in the kitchen's zone", () => {
    expect(timeOfDay("2026-11-25T13:20:00Z", VIENNA)).toBe("14:20");
    expect(moment("2026-11-25T13:20:00Z", NOON, VIENNA)).toBe("today 14:20");
    expect(moment("2026-11-25T23:30:00Z", NOON, VIENNA)).toBe("tomorrow 00:30");
    expect(moment("2026-11-24T13:20:00Z", NOON, VIENNA)).toBe("yesterday 14:20");
    expect(moment("2026-11-28T13:20:00Z", NOON, VIENNA)).toMatch(/^Sat,? 28 Nov 14:20$/);
    expect(moment("2026-11-25T23:30:00Z", NOON, "America/Lima")).toBe("today 18:30");
    expect(timeOfDay("2026-11-25T13:20:00Z", VIENNA)).toBe("14:20");
  });

  it("names the year only where it is another one", () => {
    expect(date("2026-12-03", NOON)).toBe("3 Dec");
    expect(date("2027-12-03", NOON)).toBe("3 Dec 2027");
  });

  it.each([
    ["2026-11-25", "today"],
    ["2026-11-26", "tomorrow"],
    ["2026-11-24", "since yesterday"],
    ["2026-11-20", "5 days past"],
    ["2026-11-30", "5 days"],
    ["2026-12-25", "4 weeks"],
    ["2028-04-02", "Apr 2028"],
  ])("%s is %s", (day, words) => expect(untilDate(day, NOON)).toBe(words));
});

it("counts jars as one says them", () => {
  expect(count(1, "jar")).toBe("1 jar");
  expect(count(2, "batch", "batches")).toBe("2 batches");
  expect([jarsOf(10, "pint"), jarsOf(1, "pint"), jarsOf(7, "500 ml")]).toEqual([
    "10 pints",
    "1 pint",
    "7 × 500 ml",
  ]);
});
