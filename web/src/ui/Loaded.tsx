/** A part of the application that is fetched when it is first shown, and drawn as soon as it is there. */
import { type ComponentType, startTransition, useEffect, useState } from "react";
import { Loading, NotFetched } from "./States";

interface Options<P> {
  /** Drawn in its place until it is there, with the same properties. */
  meanwhile?: ComponentType<P>;
  /** Fetched so long after it is first shown, milliseconds, unless it is asked for before. */
  calm?: number;
  /** Nobody asked for it: that it cannot be fetched is not said, and it is drawn where it is fetched later. */
  unasked?: boolean;
  /** Gives it up where it cannot be fetched; else its property `close` does. */
  leave?: () => void;
}

/** React's own lazy() with Suspense holds back what follows a placeholder for 300 ms, on every screen: too long here.
 *
 * what: said while it comes; null for what lies over a screen, of which nothing is said while it comes. What cannot be
 * fetched is thrown to the Boundary around, unless something stands in its place; of what lies over a screen it is said
 * over the screen, which stays.
 */
export function loaded<P extends object>(
  what: string | null,
  load: () => Promise<ComponentType<P>>,
  { meanwhile: Meanwhile, calm = 0, unasked = false, leave }: Options<P> = {},
): ComponentType<P> & { fetch: () => Promise<void> } {
  let Part: ComponentType<P> | undefined;
  let coming: Promise<void> | undefined;
  const shown = new Set<() => void>();
  const fetch = () =>
    (coming ??= load().then(
      (component) => {
        Part = component;
        for (const draw of shown) draw();
      },
      (error: unknown) => {
        // Asked for again when somebody tries again.
        coming = undefined;
        throw error;
      },
    ));
  function Loaded(props: P) {
    const [, arrived] = useState(false);
    const [error, failed] = useState<unknown>();
    const drawn = Part !== undefined;
    useEffect(() => {
      // It may have come after this was drawn and before this is done: what counts is whether it is on screen.
      if (drawn || error) return;
      if (Part) return arrived(true);
      // In slices: a slow tablet answers to taps while a large part is drawn.
      const draw = () => startTransition(() => arrived(true));
      shown.add(draw);
      const clock = calm
        ? setTimeout(() => fetch().catch(() => undefined), calm)
        : void fetch().catch(unasked ? () => undefined : failed);
      return () => {
        shown.delete(draw);
        clearTimeout(clock ?? undefined);
      };
    }, [drawn, error]);
    if (error && what !== null) throw error;
    if (error) {
      const { close = leave }: { close?: () => void } = props;
      return (
        <>
          {Meanwhile && <Meanwhile {...props} />}
          <NotFetched again={() => failed(undefined)} leave={close} />
        </>
      );
    }
    if (Part) return <Part {...props} />;
    if (Meanwhile) return <Meanwhile {...props} />;
    return what === null ? null : <Loading what={what} />;
  }
  return Object.assign(Loaded, { fetch });
}
