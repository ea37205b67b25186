/** Minutes of a day as a clock shows them, and as places along a strip. */

/** Minutes since midnight as `08:30`. */
export const clockOf = (minute: number): string => {
  const whole = Math.round(minute);
  return `${String(Math.floor(whole / 60)).padStart(2, "0")}:${String(whole % 60).padStart(2, "0")}`;
};

/** Visits begin at whole multiples of so many minutes. */
export const GRID = 5;
export const onGrid = (minute: number): number => Math.round(minute / GRID) * GRID;

/** The hours that strips show. */
export interface Span {
  from: number;
  to: number;
}

/** From before the first of all starts until after the last end, in whole hours. */
export function spanOf(inspectors: readonly { starts: number; ends: number; days: readonly Day[] }[]): Span {
  const begins = inspectors.flatMap((one) => [one.starts, ...one.days.flatMap(begun)]);
  const ends = inspectors.flatMap((one) => [one.ends, ...one.days.flatMap(ended)]);
  const from = Math.floor((Math.min(8 * 60, ...begins) - 1) / 60) * 60;
  return { from, to: Math.max(from + 60, Math.ceil(Math.max(16 * 60, ...ends) / 60) * 60) };
}

interface Day {
  leaves: number | null;
  back: number | null;
  stops: readonly { begins: number; ends: number }[];
}

const begun = (day: Day) => [...(day.leaves === null ? [] : [day.leaves]), ...day.stops.map((stop) => stop.begins)];
const ended = (day: Day) => [...(day.back === null ? [] : [day.back]), ...day.stops.map((stop) => stop.ends)];

/** How far along a strip a minute is, per cent. */
export const along = (minute: number, { from, to }: Span): number => ((minute - from) / (to - from)) * 100;
