/** What somebody does with their account: a button at once, its list after the first picture. */
import { Box } from "@chakra-ui/react";
import { useState } from "react";
import type { Me } from "../api/client";
import { Button } from "../ui/Button";
import { loaded } from "../ui/Loaded";
import type { Act, MenuProps } from "../ui/Menu";

// Until it is there its button stands by itself.
const Menu = loaded<MenuProps>(
  null,
  () => import("../ui/Menu").then((m) => m.Menu),
  ({ trigger }) => trigger,
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
          onClick={() => setAsked(true)}
        >
          {me.name}{" "}
          <Box as="span" display={{ base: "none", md: "inline" }} color="quiet">
            {me.firm_name}
          </Box>
        </Button>
      }
    />
  );
}
