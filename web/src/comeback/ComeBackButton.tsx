/** How many things there are to come back to, and the way to the list. */
import { showList, useToComeBack } from "../inspection/comeBack";
import { Button } from "../ui/Button";
import { OnNarrow, OnWide } from "../ui/ByWidth";

/** Always in sight while anything is open. */
export function ComeBackButton() {
  const count = useToComeBack().length;
  if (count === 0) return null;
  return (
    <Button size="sm" onClick={() => showList(true)}>
      <b>{count}</b>
      <OnWide>to come back to</OnWide>
      <OnNarrow>later</OnNarrow>
    </Button>
  );
}
