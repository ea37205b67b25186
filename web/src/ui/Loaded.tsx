/** A part of the application that is fetched when it is first shown, and drawn as soon as it is there. */
import { type ComponentType, useEffect, useState } from "react";
import { Loading } from "./States";

/** React's own lazy() with Suspense holds back what follows a placeholder for 300 ms, on every screen: too long here.
 *
 * what: said while it comes; null where nothing is to be said. Meanwhile: drawn in its place until then, with the same
 * properties. What cannot be fetched is thrown to the Boundary around.
 */
export function loaded<P extends object>(
  what: string | null,
  load: () => Promise<ComponentType<P>>,
  Meanwhile?: ComponentType<P>,
): ComponentType<P> & { fetch: () => Promise<void> } {
  let Part: ComponentType<P> | undefined;
  let coming: Promise<void> | undefined;
  const fetch = () =>
    (coming ??= load().then(
      (found) => void (Part = found),
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
      if (!drawn) fetch().then(() => arrived(true), failed);
    }, [drawn]);
    if (error) throw error;
    if (Part) return <Part {...props} />;
    if (Meanwhile) return <Meanwhile {...props} />;
    return what === null ? null : <Loading what={what} />;
  }
  return Object.assign(Loaded, { fetch });
}
