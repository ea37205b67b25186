/** The line across the top: where this is, whether everything is kept, and the theme. */
import type { Me } from "../api/client";
import { ComeBackButton } from "../comeback/ComeBackButton";
import { useInspection } from "../inspection/open";
import { useOutbox } from "../inspection/waiting";
import { useDeviceRules } from "../judge/device";
import { useReach } from "../inspection/transport";
import { Link } from "../ui/Link";
import { InstrumentButton } from "./InstrumentButton";
import { TraineeButton } from "./TraineeButton";
import { ThemeButton } from "../ui/ThemeButton";
import { clock } from "../ui/when";
import { Wordmark } from "../ui/Wordmark";
import css from "./TopBar.module.css";

export function TopBar({ me }: { me: Me }) {
  const address = useInspection((s) => s.model?.entities[s.model.id]?.values.property_address);
  const reference = useInspection((s) => s.model?.entities[s.model.id]?.values.reference);
  const [first, ...rest] = String(address ?? "New inspection").split(",");
  return (
    <header className={css.bar}>
      <Link to="/" aria-label="Dorrik, home">
        <Wordmark />
      </Link>
      <div className={css.where}>
        <b>{first}</b>
        <span>
          {rest.length > 0 && ` · ${rest.join(",").trim()}`}
          {reference ? ` · ${String(reference)}` : ""}
        </span>
      </div>
      <KeptLine />
      <ComeBackButton />
      <TraineeButton me={me} />
      <InstrumentButton />
      <ThemeButton />
    </header>
  );
}

function KeptLine() {
  const waiting = useInspection((s) => s.model?.pending.filter((p) => !p.refused).length ?? 0);
  const refused = useInspection((s) => s.model?.pending.filter((p) => p.refused).length ?? 0);
  const photos = useOutbox((s) => Object.values(s.photos).filter((refused) => !refused).length);
  const reach = useReach((s) => s.reach);
  const keptAt = useOutbox((s) => s.keptAt);
  const rules = useDeviceRules((s) => s.stand);
  const deviceFailed = useOutbox((s) => s.deviceFailed);
  return (
    <div
      role="status"
      data-waiting={waiting || undefined}
      data-refused={refused || undefined}
      data-rules={rules}
      className={css.kept}
    >
      {waiting ? (
        <>
          <b>{waiting} to send</b>
          {deviceFailed ? ", not saved: keep this page open" : " on this device"}
        </>
      ) : (
        <>
          <b>Saved</b>
          {keptAt ? ` on the server · ${clock(keptAt)}` : " on the server"}
        </>
      )}
      {refused > 0 && <b>{` · ${refused} not accepted`}</b>}
      {photos > 0 && ` · ${photos === 1 ? "a photo" : `${photos} photos`} to send`}
      {reach === "slow" && " · the server is slow"}
      {reach === "unreachable" && " · no connection"}
      {reach === "failing" && " · the server is in trouble"}
      {reach === "signed-out" && " · signed out"}
    </div>
  );
}
