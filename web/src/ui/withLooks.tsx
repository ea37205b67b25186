/** A part of the application that the component library draws: both are fetched at the same time. */
import type { ComponentType } from "react";

export const withLooks =
  <P extends object>(load: () => Promise<ComponentType<P>>): (() => Promise<ComponentType<P>>) =>
  async () => {
    const [Part, { Looks }] = await Promise.all([load(), import("./Looks")]);
    return function WithLooks(props: P) {
      return (
        <Looks>
          <Part {...props} />
        </Looks>
      );
    };
  };
