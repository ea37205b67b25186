/** What somebody does with their account: a button at once, its list after the first picture. */
import { useState } from "react";
import type { Me } from "../api/client";
import { Button } from "../ui/Button";
import { loaded } from "../ui/Loaded";
import type { Act, MenuProps } from "../ui/Menu";
import { withLooks } from "../ui/withLooks";
import css from "./Home.module.css";

/** So long after the first picture, unless the button is pressed before, milliseconds. */
const CALM = 4000;

// Until it is there its button stands by itself.
const Menu = loaded<MenuProps>(
  null,
  withLooks(() => import("../ui/Menu").then((m) => m.Menu)),
  { meanwhile: ({ trigger }) => trigger, calm: CALM },
);

export function AccountMenu({ me, acts }: { me: Me; acts: readonly Act[] }) {
  const [asked, setAsked] = useState(false);
  return (
    <Menu
      label="Your account"
      open={asked}
      acts={acts}
      trigger={
        <Button
          variant="plain"
          label={`${me.name} ${me.firm_name}: your account`}
          // Pressed before the list is there, it is open when it comes.
          onClick={() => {
            setAsked(true);
            Menu.fetch().catch(() => undefined);
          }}
        >
          {me.name} <span className={css.firm}>{me.firm_name}</span>
        </Button>
      }
    />
  );
}
