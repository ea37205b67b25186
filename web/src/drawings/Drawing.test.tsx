import { ChakraProvider } from "@chakra-ui/react";
import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, expect, it, vi } from "vitest";
import { system } from "../theme/system";
import { Drawing, type Drawn } from "./Drawing";

const NOTHING = { key: "", says: "", boxes: [], paths: [], discs: [], signs: [], words: [] };
const drawing: Drawn = {
  says: "Two boards.",
  width: 200,
  height: 100,
  left: -10,
  top: 0,
  scale: null,
  parts: [
    { ...NOTHING, says: "The supply", paths: [{ d: "M0 5H9", look: "supply" }] },
    {
      ...NOTHING,
      key: "b1",
      says: "Board 1, 2 circuits",
      boxes: [{ x: 10, y: 20, width: 30, height: 8, look: "board" }],
      signs: [{ x: 30, y: 22, status: "fail", inverse: true }],
      words: [{ x: 12, y: 26, text: "Board 1", look: "title of board", anchor: "start" }],
    },
    { ...NOTHING, key: "b2", says: "Shed", discs: [{ x: 5, y: 6, radius: 4, look: "dot" }] },
  ],
};

afterEach(cleanup);
const shown = (props: Partial<Parameters<typeof Drawing>[0]>) =>
  render(
    <ChakraProvider value={system}>
      <Drawing drawing={drawing} {...props} />
    </ChakraProvider>,
  ).container;

it("parts that lead somewhere are buttons, taken up by a tap and by keyboard", async () => {
  const choose = vi.fn();
  shown({ choose, buttons: true, chosen: "b1" });
  expect(screen.getAllByRole("button").map((one) => one.getAttribute("aria-label"))).toEqual([
    "Board 1, 2 circuits",
    "Shed",
  ]);
  expect(screen.getByRole("button", { pressed: true }).getAttribute("aria-label")).toBe("Board 1, 2 circuits");
  await userEvent.click(screen.getByRole("button", { name: "Shed" }));
  screen.getByRole("button", { name: "Shed" }).focus();
  await userEvent.keyboard("{Enter}");
  await userEvent.keyboard(" ");
  expect(choose.mock.calls).toEqual([["b2"], ["b2"], ["b2"]]);
});

it("a picture says what it shows, and its parts are short cuts", async () => {
  const choose = vi.fn();
  const found = shown({ choose });
  expect(screen.getByRole("img", { name: "Two boards." })).toBeTruthy();
  expect(screen.queryByRole("button")).toBeNull();
  await userEvent.click(found.querySelector("circle[data-look=dot]")!);
  expect(choose.mock.calls).toEqual([["b2"]]);
});

it("everything stands where it was laid out, with its look and its mark", () => {
  const found = shown({});
  expect(found.querySelector("svg")?.getAttribute("viewBox")).toBe("-10 0 200 100");
  const box = found.querySelector('rect[data-look="board"]');
  expect(["x", "y", "width", "height"].map((name) => box?.getAttribute(name))).toEqual(["10", "20", "30", "8"]);
  expect(found.querySelector('path[data-look="supply"]')?.getAttribute("d")).toBe("M0 5H9");
  expect(found.querySelector("title")?.textContent).toBe("The supply");
  // The mark of what fails is full.
  expect(found.querySelector("circle:not([data-look])")?.getAttribute("fill")).not.toBe("none");
});

it("a tap on a plan is told in metres, to five centimetres, whatever is left over beside it", () => {
  const place = vi.fn();
  const plan = { ...drawing, parts: [], left: -10, top: 0, scale: { x: 100, y: 90, per_m: 100, up: true } };
  const found = shown({ drawing: plan, place });
  const svg = found.querySelector("svg")!;
  // 200 × 100 units in 400 × 400 pixels: two pixels a unit, and 100 above and below.
  svg.getBoundingClientRect = () => ({ left: 0, top: 0, width: 400, height: 400 }) as DOMRect;
  fireEvent.click(svg, { clientX: 320, clientY: 180 });
  fireEvent.click(svg, { clientX: 100, clientY: 299 });
  expect(place.mock.calls).toEqual([
    [0.5, 0.5],
    [0, 0],
  ]);
});
