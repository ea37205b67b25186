import { ChakraProvider } from "@chakra-ui/react";
import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, expect, it } from "vitest";
import type { Me } from "../api/client";
import { system } from "../theme/system";
import { AccountMenu } from "./AccountMenu";

afterEach(cleanup);

it("pressed before its list is there, it is open when it comes", async () => {
  render(
    <ChakraProvider value={system}>
      <AccountMenu
        me={{ name: "Ruth", firm_name: "Breakwater" } as Me}
        acts={[{ name: "Sign out", act: () => undefined }]}
      />
    </ChakraProvider>,
  );
  // At once: the list has not been fetched yet.
  fireEvent.click(screen.getByRole("button", { name: "Ruth Breakwater: your account" }));
  await screen.findByRole("menuitem", { name: "Sign out" });
  expect(screen.getByRole("menu").dataset.state).toBe("open");
});
