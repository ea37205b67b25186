/** How much of a long list is shown, and the rest of it. */
import { Button } from "./Button";
import css from "./Pages.module.css";
import { localeOf } from "./when";

interface Props {
  shown: number;
  count: number;
  what: string;
  more: () => void;
  busy?: boolean;
}

export function Pages({ shown, count, what, more, busy }: Props) {
  if (shown >= count) return null;
  return (
    <div className={css.pages}>
      <p className={css.shown}>
        {shown} of {count.toLocaleString(localeOf())} {what}
      </p>
      <Button onClick={more} busy={busy}>
        Show more
      </Button>
    </div>
  );
}
