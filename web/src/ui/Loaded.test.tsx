import { ChakraProvider } from "@chakra-ui/react";
import { cleanup, render, screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { type ReactNode, useLayoutEffect } from "react";
import { afterEach, expect, it, vi } from "vitest";
import { system } from "../theme/system";
import { Boundary } from "./Boundary";
import { loaded } from "./Loaded";

afterEach(cleanup);

const shown = (children: ReactNode) => render(<ChakraProvider value={system}>{children}</ChakraProvider>);
const Figures = ({ way }: { way: string }) => <p>Figures of way {way}</p>;

it("what is on its way is said, and the part is drawn as soon as it is there", async () => {
  let arrive: (part: typeof Figures) => void = () => undefined;
  const Part = loaded("the figures", () => new Promise<typeof Figures>((done) => (arrive = done)));
  shown(<Part way="3" />);
  expect(screen.getByText(/Opening the figures/)).toBeTruthy();
  arrive(Figures);
  expect(await screen.findByText("Figures of way 3")).toBeTruthy();
});

it("a part that arrives between being asked for and the drawing of that is drawn", async () => {
  // Settled by hand, and in the middle of React's work, where no promise of the language settles.
  let arrive: () => void = () => undefined;
  const coming = {
    then: (take: (part: typeof Figures) => void) =>
      new Promise<void>((done) => {
        arrive = () => {
          take(Figures);
          done();
        };
      }),
  };
  const Part = loaded("the figures", () => coming as unknown as Promise<typeof Figures>);
  void Part.fetch();
  const Drawn = () => {
    useLayoutEffect(() => arrive(), []);
    return null;
  };
  shown(
    <>
      <Part way="3" />
      <Drawn />
    </>,
  );
  expect(await screen.findByText("Figures of way 3")).toBeTruthy();
});

it("a part that was fetched before is there at once", async () => {
  const load = vi.fn(async () => Figures);
  const Part = loaded("the figures", load);
  await Part.fetch();
  shown(<Part way="7" />);
  expect(screen.getByText("Figures of way 7")).toBeTruthy();
  expect(load).toHaveBeenCalledTimes(1);
});

it("a part that cannot be fetched is told, and asked for again when somebody tries again", async () => {
  const quiet = vi.spyOn(console, "error").mockImplementation(() => undefined);
  let online = false;
  const Part = loaded("the figures", async () => {
    if (!online) throw new TypeError("Failed to fetch dynamically imported module");
    return Figures;
  });
  shown(
    <Boundary what="This screen">
      <Part way="3" />
    </Boundary>,
  );
  const again = await screen.findByRole("button", { name: /again/i });
  online = true;
  await userEvent.click(again);
  expect(await screen.findByText("Figures of way 3")).toBeTruthy();
  quiet.mockRestore();
});

it("what stands in its place until then has the same properties, and gives way", async () => {
  let arrive: (part: typeof Figures) => void = () => undefined;
  const Part = loaded(null, () => new Promise<typeof Figures>((done) => (arrive = done)), {
    meanwhile: ({ way }) => <p>Way {way} comes</p>,
  });
  shown(<Part way="3" />);
  expect(screen.getByText("Way 3 comes")).toBeTruthy();
  arrive(Figures);
  expect(await screen.findByText("Figures of way 3")).toBeTruthy();
  expect(screen.queryByText("Way 3 comes")).toBeNull();
});

it("a part that can wait comes when its time is there, or as soon as it is asked for", async () => {
  const load = vi.fn(async () => Figures);
  const Part = loaded(null, load, { meanwhile: ({ way }: { way: string }) => <p>Way {way} comes</p>, calm: 60_000 });
  shown(<Part way="3" />);
  expect(screen.getByText("Way 3 comes")).toBeTruthy();
  expect(load).not.toHaveBeenCalled();
  void Part.fetch();
  expect(await screen.findByText("Figures of way 3")).toBeTruthy();
});

it("what lies over a screen and cannot be fetched leaves the screen as it is, and comes when somebody tries again", async () => {
  let online = false;
  const Over = loaded(null, async () => {
    if (!online) throw new TypeError("Failed to fetch dynamically imported module");
    return Figures;
  });
  shown(
    <Boundary what="This screen">
      <p>What was entered</p>
      <Over way="3" />
    </Boundary>,
  );
  const again = await screen.findByRole("button", { name: "Try again" });
  expect(screen.getByText("What was entered")).toBeTruthy();
  online = true;
  await userEvent.click(again);
  expect(await screen.findByText("Figures of way 3")).toBeTruthy();
  expect(screen.queryByRole("alert")).toBeNull();
});

it("what cannot be fetched now can be left", async () => {
  const load = async (): Promise<typeof Figures> => {
    throw new TypeError("Failed to fetch dynamically imported module");
  };
  const Over = loaded<{ way: string; close: () => void }>(null, load);
  const close = vi.fn();
  const leave = vi.fn();
  const Other = loaded(null, load, { leave });
  const { rerender } = shown(<Over way="3" close={close} />);
  await userEvent.click(await screen.findByRole("button", { name: "Leave it" }));
  expect(close).toHaveBeenCalledOnce();
  rerender(<Other way="3" />);
  await userEvent.click(await screen.findByRole("button", { name: "Leave it" }));
  expect(leave).toHaveBeenCalledOnce();
});

it("what nobody asked for is not missed, and comes when it is fetched", async () => {
  let online = false;
  const load = vi.fn(async () => {
    if (!online) throw new TypeError("Failed to fetch dynamically imported module");
    return Figures;
  });
  const Part = loaded(null, load, { unasked: true });
  shown(<Part way="3" />);
  await waitFor(() => expect(load).toHaveBeenCalledTimes(1));
  await new Promise((done) => setTimeout(done));
  expect(screen.queryByRole("alert")).toBeNull();
  online = true;
  await Part.fetch();
  expect(await screen.findByText("Figures of way 3")).toBeTruthy();
});
