/** The line across the top: where this is, whether everything is kept, and the theme. */
import { Link } from "react-router";
import { useInspection } from "../inspection/sync";
import { Wordmark } from "../signin/SignIn";
import { useTheme } from "../theme/useTheme";
import css from "./TopBar.module.css";

export function TopBar() {
  const values = useInspection((s) => s.model?.entities[s.model.id]?.values);
  const [dim, toggle] = useTheme();
  const [first, ...rest] = String(values?.property_address ?? "New inspection").split(",");
  return (
    <header className={css.bar}>
      <Link to="/" aria-label="Dorrik, home">
        <Wordmark />
      </Link>
      <div className={css.where}>
        <b>{first}</b>
        <span>
          {rest.length > 0 && ` · ${rest.join(",").trim()}`}
          {values?.reference ? ` · ${values.reference}` : ""}
        </span>
      </div>
      <KeptLine />
      <button type="button" className={css.theme} onClick={toggle}>
        {dim ? "Day" : "Dim"}
      </button>
    </header>
  );
}

const time = (at: number) => new Date(at).toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" });

function KeptLine() {
  const waiting = useInspection((s) => s.model?.pending.filter((p) => !p.refused).length ?? 0);
  const refused = useInspection((s) => s.model?.pending.filter((p) => p.refused).length ?? 0);
  const line = useInspection((s) => s.line);
  const keptAt = useInspection((s) => s.keptAt);
  const deviceFailed = useInspection((s) => s.deviceFailed);
  const parts: React.ReactNode[] = [];
  if (waiting) parts.push(<b key="w">{waiting} waiting</b>, deviceFailed ? " in memory only" : " on this device");
  else parts.push(<b key="k">All kept</b>, keptAt ? ` on the server · ${time(keptAt)}` : " on the server");
  if (refused) parts.push(<b key="r">{` · ${refused} to mend`}</b>);
  if (line === "offline") parts.push(" · no connection");
  if (line === "signed-out") parts.push(" · signed out");
  return (
    <div className={css.kept} role="status" data-waiting={waiting || undefined} data-refused={refused || undefined}>
      {parts}
    </div>
  );
}
