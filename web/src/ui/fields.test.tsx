import { ChakraProvider } from "@chakra-ui/react";
import { cleanup, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { type ReactNode, useState } from "react";
import { afterEach, expect, it, vi } from "vitest";
import { system } from "../theme/system";
import { Boundary } from "./Boundary";
import { YesNoField } from "./ChoiceField";
import { CheckGroup } from "./CheckField";
import { DateField } from "./DateField";
import { FilterList } from "./FilterList";

afterEach(() => {
  cleanup();
  vi.restoreAllMocks();
});

const show = (children: ReactNode) => render(<ChakraProvider value={system}>{children}</ChakraProvider>);

function Day({ start }: { start: string }) {
  const [value, setValue] = useState(start);
  return (
    <>
      <DateField label="Day" value={value} change={setValue} />
      <output>{value || "empty"}</output>
    </>
  );
}

it("a day is read as it is left, shown day first, and kept when what is typed is none", async () => {
  const hand = userEvent.setup();
  show(<Day start="2026-11-25" />);
  const box = screen.getByRole("textbox", { name: "Day" });
  expect(box).toHaveProperty("value", "25 Nov 2026");
  await hand.clear(box);
  await hand.type(box, "3/12/26");
  await hand.tab();
  expect(screen.getByRole("status").textContent).toBe("2026-12-03");
  expect(box).toHaveProperty("value", "3 Dec 2026");
  await hand.clear(box);
  await hand.type(box, "31 2 26");
  await hand.tab();
  expect(screen.getByText(/That is no day/)).toBeTruthy();
  expect(box).toHaveProperty("value", "31 2 26");
  expect(screen.getByRole("status").textContent).toBe("2026-12-03");
  await hand.clear(box);
  await hand.tab();
  expect(screen.getByRole("status").textContent).toBe("empty");
});

it("a day stands in the words of the browser's language", () => {
  vi.spyOn(navigator, "language", "get").mockReturnValue("de-DE");
  show(<Day start="2026-03-05" />);
  expect(screen.getByRole("textbox", { name: "Day" })).toHaveProperty("value", "5. März 2026");
});

it("yes, no and not known: a second tap takes the answer back", async () => {
  const hand = userEvent.setup();
  const answers: (boolean | null)[] = [];
  function Asked() {
    const [value, setValue] = useState<boolean | null>(null);
    return (
      <YesNoField
        label="Sound"
        value={value}
        change={(next) => {
          answers.push(next);
          setValue(next);
        }}
      />
    );
  }
  show(<Asked />);
  await hand.click(screen.getByRole("button", { name: "Yes" }));
  expect(screen.getByRole("button", { name: "Yes" }).getAttribute("aria-pressed")).toBe("true");
  await hand.click(screen.getByRole("button", { name: "No" }));
  await hand.click(screen.getByRole("button", { name: "No" }));
  expect(answers).toEqual([true, false, null]);
});

it("a group of checks gives what is ticked in its own order", async () => {
  const hand = userEvent.setup();
  const change = vi.fn();
  show(
    <CheckGroup
      label="Fuels"
      values={["c"]}
      choices={[
        ["a", "A"],
        ["b", "B"],
        ["c", "C"],
      ]}
      change={change}
    />,
  );
  await hand.click(screen.getByRole("checkbox", { name: "A" }));
  expect(change).toHaveBeenCalledWith(["a", "c"]);
});

it("a list grows shorter as one types, and Enter takes the one that is lit", async () => {
  const hand = userEvent.setup();
  const chosen: string[] = [];
  function List() {
    const [text, setText] = useState("");
    const options = ["curlew", "dunlin", "dotterel"].filter((name) => name.startsWith(text));
    return (
      <FilterList
        label="Bird"
        list="Birds"
        empty="No such bird."
        text={text}
        type={setText}
        options={options.map((key) => ({ key, title: key }))}
        choose={(key) => chosen.push(key)}
        enter={() => chosen.push("own words")}
      />
    );
  }
  show(<List />);
  const box = screen.getByRole("combobox", { name: "Bird" });
  await hand.type(box, "d");
  expect(screen.getAllByRole("option")).toHaveLength(2);
  await hand.keyboard("{Enter}");
  await hand.type(box, "x{Enter}");
  expect(chosen).toEqual(["dunlin", "own words"]);
});

it("a part that throws says so in its place, and is drawn again when the cause is gone", async () => {
  vi.spyOn(console, "error").mockImplementation(() => {});
  const hand = userEvent.setup();
  let broken = true;
  function Part() {
    if (broken) throw new Error("no such board");
    return <p>sound again</p>;
  }
  show(
    <>
      <Boundary what="The margin">
        <Part />
      </Boundary>
      <p>the rest</p>
    </>,
  );
  expect(screen.getByRole("alert").textContent).toContain("The margin cannot be shown.");
  expect(screen.getByRole("alert").textContent).toContain("no such board");
  expect(screen.getByText("the rest")).toBeTruthy();
  broken = false;
  await hand.click(screen.getByRole("button", { name: "Try again" }));
  expect(screen.getByText("sound again")).toBeTruthy();
});
