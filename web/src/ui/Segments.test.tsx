import { cleanup, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, expect, it, vi } from "vitest";
import type { Choice } from "./ChoiceField";
import { Segments } from "./Segments";

afterEach(cleanup);

const TESTS: Choice[] = [
  ["dead", "Dead"],
  ["live", "Live"],
];
const chosen = () => (screen.getByRole("radio", { checked: true }) as HTMLInputElement).value;

it("what was tapped stands at once, before what it shows is drawn", async () => {
  const change = vi.fn();
  const { rerender } = render(<Segments label="Tests" value="dead" choices={TESTS} change={change} />);
  await userEvent.click(screen.getByText("Live"));
  expect(change).toHaveBeenCalledExactlyOnceWith("live");
  expect(chosen()).toBe("live");
  rerender(<Segments label="Tests" value="live" choices={TESTS} change={change} />);
  expect(chosen()).toBe("live");
  // And what is shown for another reason stands as well.
  rerender(<Segments label="Tests" value="dead" choices={TESTS} change={change} />);
  expect(chosen()).toBe("dead");
});

it("arrows go from one to the next", async () => {
  const change = vi.fn();
  render(<Segments label="Tests" value="dead" choices={TESTS} change={change} />);
  await userEvent.tab();
  await userEvent.keyboard("{ArrowRight}");
  expect(change).toHaveBeenCalledExactlyOnceWith("live");
});
