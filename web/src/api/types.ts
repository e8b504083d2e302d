import type { components } from "@/api/schema";

type Schemas = components["schemas"];

export type Estimate = Schemas["Estimate"];
export type Finding = Schemas["Finding"];
export type KitchenView = Schemas["KitchenView"];
export type JarKind = Schemas["JarKindView"];
export type PlanCreate = Schemas["PlanCreate"];
export type PlanView = Schemas["PlanView"];
export type EndView = Schemas["EndView"];
export type InputView = Schemas["InputView"];
export type LineView = Schemas["LineView"];
export type Scale = Schemas["Scale"];
export type ServingView = Schemas["ServingView"];
export type MarkAsk = Schemas["MarkAsk"];
export type Marked = Schemas["Marked"];
export type IngredientCreate = Schemas["IngredientCreate"];
export type Packing = Schemas["PackingView"];
export type ProcessView = Schemas["ProcessView"];
export type FlowLot = Schemas["FlowLot"];
export type FlowOperation = Schemas["FlowOperation"];
export type BatchView = Schemas["BatchView"];
export type BatchLine = Schemas["BatchLine"];
export type StepView = Schemas["StepView"];
export type LotView = Schemas["LotView"];
export type JarView = Schemas["JarView"];
export type JarPageView = Schemas["JarPage"];
export type ShelfView = Schemas["ShelfView"];
export type ShelfPlace = Schemas["ShelfPlace"];
export type HobSlot = Schemas["HobSlot"];
export type TodayView = Schemas["TodayView"];
export type TodayItem = Schemas["TodayItem"];
export type Session = Schemas["SessionPublic"];
export type StepFinish = Schemas["StepFinish"];
export type ReadingCreate = Schemas["ReadingCreate"];
export type HouseholdCreate = Schemas["HouseholdCreate"];
export type Askable = Schemas["Askable"];
export type SafetyView = Schemas["SafetyView"];
export type OwnProcess = Schemas["OwnProcessView"];
export type OwnProcessCreate = Schemas["OwnProcessCreate"];
export type TimeRow = Schemas["TimeRow"];
export type RuleRow = Schemas["RuleRow"];
export type Evidence = Schemas["Evidence"];

export type MethodView = Schemas["MethodView"];
export type StepChoices = Schemas["StepChoices"];
export type StepRow = Schemas["StepRow"];
export type FlowEdit = Schemas["FlowEdit"];
export type MethodCreate = Schemas["MethodCreate"];
export type Difference = Schemas["Difference"];
export type YieldView = Schemas["YieldView"];
export type IntakeView = Schemas["IntakeView"];
export type LotCreate = Schemas["LotCreate"];
export type KitchenUpdate = Schemas["KitchenUpdate"];
export type Effect = Schemas["Effect"];
export type KitchenStation = Schemas["StationRow"];
export type Vessel = Schemas["VesselView"];
export type Place = Schemas["PlaceView"];
export type Person = Schemas["PersonView"];

/** RFC 9457, with the fields ours carry. */
export type Problem = {
  status: number;
  code: string;
  detail: string;
  errors?: { pointer: string; detail: string }[];
  finding?: Finding;
};
