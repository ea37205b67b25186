/** The verdict on the figure that was just left, for who hears rather than sees it; silent otherwise. */
import { useDesk } from "../inspection/desk";
import { speaksOf } from "../inspection/arrange";
import { useInspection } from "../inspection/open";
import { Hidden } from "../ui/Hidden";

const WORDS = { pass: "Passes", attention: "Look at this", fail: "Fails", unknown: "Cannot be judged yet" };

export function SpokenVerdict() {
  const last = useDesk((s) => s.left[0]);
  const text = useInspection((s) =>
    last
      ? (s.model?.judgement?.notes ?? [])
          .filter((note) => speaksOf(note, last) && !note.because_of)
          .map((note) => `${WORDS[note.standing]}: ${note.title}. ${note.reason}`)
          .join(" ")
      : "",
  );
  return <Hidden role="status">{text}</Hidden>;
}
