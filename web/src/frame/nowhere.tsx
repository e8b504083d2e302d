import { Link } from "react-router";
import { Empty } from "@/ui/notice";

export function Nowhere() {
  return (
    <Empty>
      There is nothing at this address.{" "}
      <Link className="underline" to="/">
        Today
      </Link>{" "}
      says what needs hands.
    </Empty>
  );
}
