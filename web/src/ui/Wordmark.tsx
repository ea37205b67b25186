/** The name, with its lamp. */
import css from "./Wordmark.module.css";

export function Wordmark({ large = false }: { large?: boolean }) {
  return (
    <div className={large ? `${css.mark} ${css.large}` : css.mark}>
      <span className={css.lamp} />
      Dorrik
    </div>
  );
}
