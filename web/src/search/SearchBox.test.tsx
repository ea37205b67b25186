import { ChakraProvider } from "@chakra-ui/react";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, fireEvent, render, screen, waitFor } from "@testing-library/react";
import { MemoryRouter } from "react-router";
import { afterEach, expect, it, vi } from "vitest";
import { api } from "../api/client";
import { system } from "../theme/system";
import { SearchBox } from "./SearchBox";

const FOUND = [{ kind: "property", id: "p", title: "4 Long Row", line: "Kelder Haven" }];

afterEach(() => {
  cleanup();
  vi.restoreAllMocks();
});

it("what was typed before the list was there stays, with the cursor in it", async () => {
  vi.spyOn(api, "GET").mockResolvedValue({ data: FOUND, response: Response.json(FOUND) } as never);
  render(
    <ChakraProvider value={system}>
      <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { retry: false } } })}>
        <MemoryRouter>
          <SearchBox />
        </MemoryRouter>
      </QueryClientProvider>
    </ChakraProvider>,
  );
  const before = screen.getByRole<HTMLInputElement>("textbox", { name: "Find" });
  before.focus();
  fireEvent.change(before, { target: { value: "Long Row" } });
  const after = await screen.findByRole<HTMLInputElement>("combobox", { name: "Find" });
  expect(after.value).toBe("Long Row");
  await waitFor(() => expect(document.activeElement).toBe(after));
  // What fits is shown without another letter.
  expect(await screen.findByRole("option", { name: /4 Long Row/ })).toBeTruthy();
});
