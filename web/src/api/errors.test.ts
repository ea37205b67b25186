import { expect, it } from "vitest";
import { answer, Refused, Unreachable } from "./client";
import { explain, explainField, fieldErrors } from "./errors";

const refused = new Refused(422, "That is not possible.", {
  fields: [{ field: "address", message: "Give the street." }],
});

it("says what the server said, of the whole and of each field", () => {
  expect(explain(refused)).toBe("That is not possible.");
  expect(fieldErrors(refused)).toEqual({ address: "Give the street." });
  expect(explainField(refused, "address")).toBe("Give the street.");
  expect(explainField(refused, "name")).toBe("That is not possible.");
});

it("a server that does not answer is told as that, with what it means for what was typed", async () => {
  const failed = await answer(Promise.reject(new TypeError("Failed to fetch"))).catch((error: unknown) => error);
  expect(failed).toBeInstanceOf(Unreachable);
  expect(explain(failed)).toBe("The server cannot be reached. Nothing was changed.");
  expect(explainField(failed, "name")).toBe("The server cannot be reached. What you typed is still here.");
});

it("a mistake of the program itself is never told as a lost connection", () => {
  expect(explain(new TypeError("x is undefined"))).toContain("on this device (x is undefined)");
});
