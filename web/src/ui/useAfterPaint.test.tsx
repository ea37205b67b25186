import { act, cleanup, render, screen } from "@testing-library/react";
import { afterEach, expect, it } from "vitest";
import { useAfterPaint } from "./useAfterPaint";

afterEach(cleanup);

function Both({ value }: { value: string }) {
  return (
    <>
      <output>{value}</output>
      <p>{useAfterPaint(value)}</p>
    </>
  );
}

const later = () => screen.getByRole("paragraph").textContent;
const frames = () => act(() => new Promise((done) => setTimeout(done, 120)));

it("shows the first value at once, and another after a frame", async () => {
  const { rerender } = render(<Both value="0.31" />);
  expect(later()).toBe("0.31");
  rerender(<Both value="0.32" />);
  expect([screen.getByRole("status").textContent, later()]).toEqual(["0.32", "0.31"]);
  await frames();
  expect(later()).toBe("0.32");
});

it("comes to the last of several, whatever was between", async () => {
  const { rerender } = render(<Both value="0" />);
  for (let n = 1; n <= 9; n++) rerender(<Both value={String(n)} />);
  await frames();
  expect(later()).toBe("9");
  rerender(<Both value="0" />);
  rerender(<Both value="9" />);
  await frames();
  expect(later()).toBe("9");
});
