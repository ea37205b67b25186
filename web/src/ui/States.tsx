/** What a screen shows while it loads, where there is nothing yet, when something went wrong, and how far it is. */
import type { ReactNode } from "react";
import { Button } from "./Button";
import { Hidden } from "./Hidden";
import css from "./States.module.css";

/** The lines that are about to stand there, breathing; a screen reader hears what is opened. */
export function Loading({ what, lines = 4 }: { what: string; lines?: number }) {
  return (
    <div className={css.loading} role="status">
      <Hidden>Opening {what} …</Hidden>
      <div className={css.lines} aria-hidden="true">
        <div className={`${css.line} ${css.title}`} />
        {Array.from({ length: lines }, (_, at) => (
          <div key={at} className={css.line} />
        ))}
      </div>
    </div>
  );
}

/** A whole screen that could not be opened. */
export function Trouble({
  message,
  again,
  children,
}: {
  message: string;
  again?: () => void;
  /** What can be done all the same. */
  children?: ReactNode;
}) {
  return (
    <div className={css.trouble}>
      <div className={css.told} role="alert">
        <div className={css.message}>{message}</div>
        {again && (
          <Button variant="action" onClick={again}>
            Try again
          </Button>
        )}
        {children}
      </div>
    </div>
  );
}

/** What lies over a screen could not be fetched: the screen stays, and what was entered with it. */
export function NotFetched({ again, leave }: { again: () => void; leave?: () => void }) {
  return (
    <div className={css.over} role="alert">
      <span>That is not on this device yet, and cannot be fetched now. Nothing you entered is lost.</span>
      <div className={css.acts}>
        <Button size="sm" variant="action" onClick={again}>
          Try again
        </Button>
        {leave && (
          <Button size="sm" onClick={leave}>
            Leave it
          </Button>
        )}
      </div>
    </div>
  );
}

/** Something to be told in place: what went wrong, what was done, or what is shown only once. */
export function Told({ children, trouble }: { children: ReactNode; trouble?: boolean }) {
  return (
    <div className={trouble ? `${css.alert} ${css.plain}` : css.alert} role={trouble ? "alert" : "status"}>
      <div className={css.content}>{children}</div>
    </div>
  );
}

/** Nothing there yet: what would stand here, and what to do first. */
export function Empty({ title, children, act }: { title?: string; children: ReactNode; act?: ReactNode }) {
  return (
    <div className={css.empty}>
      {title && <p className={css.emptyTitle}>{title}</p>}
      <div className={css.quiet}>{children}</div>
      {act}
    </div>
  );
}

/** How far something is; without an amount, that it goes on. */
export function Progress({ label, done, of = 100 }: { label: string; done?: number; of?: number }) {
  const share = done === undefined ? undefined : `${(100 * done) / of}%`;
  return (
    <div>
      <div className={css.progressLabel}>{label}</div>
      <div
        className={css.track}
        role="progressbar"
        aria-label={label}
        aria-valuemin={0}
        aria-valuemax={of}
        aria-valuenow={done}
      >
        <div className={css.range} style={{ width: share }} />
      </div>
    </div>
  );
}
