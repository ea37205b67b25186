import { ChakraProvider } from "@chakra-ui/react";
import { act, cleanup, render, screen } from "@testing-library/react";
import { Profiler } from "react";
import { MemoryRouter } from "react-router";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import type { Judgement } from "../api/client";
import { open, write } from "../inspection/model";
import { useInspection } from "../inspection/open";
import type { Pending } from "../inspection/types";
import { system } from "../theme/system";
import { GridRow } from "./GridRow";
import { columnsOf } from "./columns";
import { reference } from "./columns.fixture";

const WAYS = 60;
const drawn = new Map<string, number>();

vi.mock("../fields/ReadingCell", () => ({
  ReadingCell: ({ label }: { label: string }) => {
    drawn.set(label, (drawn.get(label) ?? 0) + 1);
    return <input aria-label={label} />;
  },
}));

const DEAD = columnsOf(reference, "circuit", "dead");

const judgement = {
  notes: [],
  expected: [],
  sums: {},
  benches: [],
  zs_scales: [],
  asked: [],
  boards: [],
  words: {},
} as unknown as Judgement;

function written(id: string, field: string, value: string): Pending {
  const change = { id: `${id}${field}`, entity: "circuit" as const, entity_id: id, field, value, based_on: 1 };
  return { inspectionId: "i", author: "ruth", change: { ...change, made_at: "", device: "d" } };
}

beforeEach(() => {
  drawn.clear();
  const circuits = Array.from({ length: WAYS }, (_, at) => ({
    kind: "circuit",
    id: `c${at + 1}`,
    parent_id: "b",
    values: { position: at + 1, way: String(at + 1), designation: "Lights" },
  }));
  const entities = [
    { kind: "inspection", id: "i", parent_id: "f", values: {} },
    { kind: "board", id: "b", parent_id: "i", values: { name: "Board 1" } },
    ...circuits,
  ];
  useInspection.setState({
    model: open({ id: "i", seq: 1, state: "in hand", may: ["write"], entities, judgement }, []),
  });
});
afterEach(cleanup);

it("a figure that is left on a board of sixty ways draws its own row anew, and no other", () => {
  let rows = 0;
  render(
    <ChakraProvider value={system}>
      <MemoryRouter>
        <table>
          <tbody>
            {Array.from({ length: WAYS }, (_, at) => (
              <Profiler key={at} id={`row ${at + 1}`} onRender={() => rows++}>
                <GridRow id={`c${at + 1}`} columns={DEAD} tests="dead" />
              </Profiler>
            ))}
          </tbody>
        </table>
      </MemoryRouter>
    </ChakraProvider>,
  );
  expect(screen.getAllByRole("row")).toHaveLength(WAYS);
  expect(rows).toBe(WAYS);
  const figures = drawn.size;
  expect(figures).toBe(WAYS * DEAD.length);
  drawn.clear();
  rows = 0;
  const { model } = useInspection.getState();
  // As it is typed: shown at once.
  act(() => useInspection.setState({ model: write(model!, written("c7", "r1_r2_ohm", "0.95")) }));
  expect(rows).toBe(1);
  // As the verdict comes: the figure that it marks.
  rows = 0;
  drawn.clear();
  const note = { id: "c7", field: "r1_r2_ohm", standing: "attention", touches: [] };
  const now = useInspection.getState().model!;
  act(() => useInspection.setState({ model: { ...now, judgement: { ...judgement, notes: [note] } as never } }));
  expect([...drawn.keys()]).toEqual(["7 Lights, R1+R2 Ω"]);
  expect(rows).toBe(1);
});
