/** What is looked for in a portfolio, as the address of the screen has it and as the server is asked. */
import { useSearchParams } from "react-router";
import type { PropertyState } from "../drawings/StateMark";

export interface Looked {
  states: PropertyState[];
  holder: string;
  nation: string;
  late: boolean;
  due_until: string;
  text: string;
  order: string;
}

/** What the server is asked with, but for whose portfolio, which page and which part of the map. */
export function asked(looked: Looked) {
  return {
    ...(looked.states.length > 0 && { states: looked.states }),
    ...(looked.holder && { holder: looked.holder as never }),
    ...(looked.nation && { nation: looked.nation }),
    ...(looked.late && { late: true }),
    ...(looked.due_until && { due_until: looked.due_until }),
    ...(looked.text && { text: looked.text }),
    ...(looked.order && { order: looked.order as never }),
  };
}

/** The filters, kept in the address: a link to them, and the way back, show the same. */
export function useLooked(): [Looked, (change: Partial<Looked>) => void] {
  const [params, setParams] = useSearchParams();
  const looked: Looked = {
    states: params.getAll("state") as PropertyState[],
    holder: params.get("holder") ?? "",
    nation: params.get("nation") ?? "",
    late: params.get("late") === "yes",
    due_until: params.get("due") ?? "",
    text: params.get("text") ?? "",
    order: params.get("order") ?? "",
  };
  const change = (changed: Partial<Looked>) => {
    const next = { ...looked, ...changed };
    const parameters = new URLSearchParams();
    for (const state of next.states) parameters.append("state", state);
    if (next.holder) parameters.set("holder", next.holder);
    if (next.nation) parameters.set("nation", next.nation);
    if (next.late) parameters.set("late", "yes");
    if (next.due_until) parameters.set("due", next.due_until);
    if (next.text) parameters.set("text", next.text);
    if (next.order) parameters.set("order", next.order);
    setParams(parameters, { replace: true });
  };
  return [looked, change];
}
