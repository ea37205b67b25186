/** A link to another screen. */
import { type ComponentProps, forwardRef } from "react";
import { useHref, useLinkClickHandler } from "react-router";

interface Props extends Omit<ComponentProps<"a">, "href" | "ref"> {
  to: string;
}

// The router's own link brings what fetches pages beforehand: more than all of home, sent before the first picture.
export const Link = forwardRef<HTMLAnchorElement, Props>(function Link({ to, onClick, children, ...rest }, ref) {
  const href = useHref(to);
  const go = useLinkClickHandler<HTMLAnchorElement>(to);
  return (
    <a
      {...rest}
      ref={ref}
      href={href}
      onClick={(event) => {
        onClick?.(event);
        if (!event.defaultPrevented) go(event);
      }}
    >
      {children}
    </a>
  );
});
