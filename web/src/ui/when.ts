/** Days and times as people here write them: the day first, whatever the browser was set to in the shop. */

/** The language of the browser; English is written as it is where the rule books are. */
export function localeOf(language: string = navigator.language): string {
  return /^en\b/i.test(language) ? (/^en-IE$/i.test(language) ? "en-IE" : "en-GB") : language;
}

type Shape = Intl.DateTimeFormatOptions;

const SHORT: Shape = { day: "numeric", month: "short", year: "numeric" };
const CLOCK: Shape = { hour: "2-digit", minute: "2-digit" };

/** Made once for each shape: to make one takes the browser far longer than to use it. */
const formats = new Map<string, Intl.DateTimeFormat>();

function write(at: Date, shape: Shape): string {
  const key = localeOf() + JSON.stringify(shape);
  const format = formats.get(key) ?? new Intl.DateTimeFormat(localeOf(), shape);
  formats.set(key, format);
  // What is no moment is shown as such, and stops nothing.
  return Number.isNaN(at.getTime()) ? String(at) : format.format(at);
}

/** A calendar day, `2026-11-25`, as `25 Nov 2026`. */
export function day(iso: string | null | undefined, shape: Shape = SHORT): string {
  if (!iso) return "";
  const at = new Date(`${iso}T12:00:00Z`);
  return Number.isNaN(at.getTime()) ? iso : write(at, { ...shape, timeZone: "UTC" });
}

/** A moment on the person's own clock, day and time. */
export const moment = (at: string | number | Date, shape: Shape = { ...SHORT, ...CLOCK }): string =>
  write(new Date(at), shape);

/** The time of a moment on the person's own clock, `09:05`. */
export function clock(at: string | number | Date): string {
  const time = new Date(at);
  // The first of the browser's own formats takes a slow tablet a tenth of a second, and this stands on every screen.
  return localeOf().startsWith("en-") && !Number.isNaN(time.getTime())
    ? `${pad(time.getHours())}:${pad(time.getMinutes())}`
    : write(time, CLOCK);
}

/** Today on the person's own clock, as `2026-11-25`. */
export const today = (): string => iso(new Date().getFullYear(), new Date().getMonth() + 1, new Date().getDate());

/** A length of time as people say it: 388 minutes are `6 h 28`. */
export const hours = (minutes: number): string => `${Math.floor(minutes / 60)} h ${pad(Math.round(minutes % 60))}`;

const pad = (figure: number) => String(figure).padStart(2, "0");
const iso = (year: number, month: number, dayOfMonth: number) =>
  `${String(year).padStart(4, "0")}-${pad(month)}-${pad(dayOfMonth)}`;

/** The months as the locale calls them, long and short, without dots. */
function months(locale: string): string[][] {
  const named = (month: "long" | "short") => {
    const shape = new Intl.DateTimeFormat(locale, { day: "numeric", month });
    return Array.from({ length: 12 }, (_, at) =>
      (shape.formatToParts(new Date(2026, at, 15)).find((part) => part.type === "month")?.value ?? "")
        .toLocaleLowerCase(locale)
        .replaceAll(".", ""),
    );
  };
  const [long, short] = [named("long"), named("short")];
  return long.map((name, at) => [name, short[at] ?? name]);
}

/** What was typed, as `2026-11-25`, or null where it is no day.
 *
 * `25 11 26`, `25/11/2026`, `25.11.`, `25 nov`, `25. November 2026` and `2026-11-25` are days. Figures are day,
 * month, year in this order; without a year it is this one; two figures of a year are of this century.
 */
export function readDay(text: string, locale: string = localeOf(), now: Date = new Date()): string | null {
  const words = text.trim().toLocaleLowerCase(locale);
  const written = /^(\d{4})-(\d{1,2})-(\d{1,2})$/.exec(words);
  if (written) return real(Number(written[1]), Number(written[2]), Number(written[3]));
  const parts = words.split(/[\s./,-]+/).filter(Boolean);
  if (parts.length < 2 || parts.length > 3 || !/^\d{1,2}$/.test(parts[0] ?? "")) return null;
  const [first, second = "", third] = parts;
  let month = Number(second);
  if (!/^\d{1,2}$/.test(second)) {
    const starts = (name: string) => second.length >= 3 && name.startsWith(second);
    month =
      1 +
      [...months(locale), ...(locale.startsWith("en") ? [] : months("en-GB"))].findIndex((names) => names.some(starts));
    month = month > 12 ? month - 12 : month;
  }
  if (third !== undefined && !/^(\d{2}|\d{4})$/.test(third)) return null;
  const year = third === undefined ? now.getFullYear() : third.length === 2 ? 2000 + Number(third) : Number(third);
  return real(year, month, Number(first));
}

/** A day that the calendar has. */
function real(year: number, month: number, dayOfMonth: number): string | null {
  const at = new Date(Date.UTC(year, month - 1, dayOfMonth));
  if (at.getUTCFullYear() !== year || at.getUTCMonth() !== month - 1 || at.getUTCDate() !== dayOfMonth) return null;
  return iso(year, month, dayOfMonth);
}

/** What was typed, as `09:05`, or null where it is no time: `905`, `9.05`, `09:05`, `9` are times. */
export function readTime(text: string): string | null {
  const match = /^(\d{1,2})(?:[:.h ]?(\d{2}))?$/.exec(text.trim());
  if (!match) return null;
  const [hour, minute] = [Number(match[1]), Number(match[2] ?? 0)];
  return hour < 24 && minute < 60 ? `${pad(hour)}:${pad(minute)}` : null;
}
