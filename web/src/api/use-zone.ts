import { useQuery } from "@tanstack/react-query";
import { kitchenQuery } from "@/api/queries";

/** The kitchen's time zone; every hour on screen is the kitchen's. */
export const useZone = (): string => useQuery(kitchenQuery).data?.time_zone ?? "UTC";
