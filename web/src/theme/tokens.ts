/** What everything is drawn with: the colours of day and dim, the type, the steps of space and size. */
import { defineSemanticTokens, defineTokens } from "@chakra-ui/react";

const steps = [0, 0.5, 1, 1.5, 2, 2.5, 3, 3.5, 4, 5, 6, 7, 8, 9, 10, 11, 12, 14, 16, 20, 24];
/** A step is a quarter of a rem, as a name in the kit and a length on the screen. */
const scale = Object.fromEntries(steps.map((step) => [String(step), { value: `${step / 4}rem` }]));

const face = (name: string, rest: string) => ({ value: `'${name}', 'Dorrik Signs', ${rest}` });

export const tokens = defineTokens({
  fonts: {
    body: face("Atkinson Hyperlegible Next", "system-ui, sans-serif"),
    heading: face("Atkinson Hyperlegible Next", "system-ui, sans-serif"),
    mono: face("Atkinson Hyperlegible Mono", "ui-monospace, monospace"),
  },
  fontSizes: {
    xs: { value: "0.75rem" },
    sm: { value: "0.875rem" },
    md: { value: "1rem" },
    lg: { value: "1.125rem" },
    xl: { value: "1.25rem" },
    "2xl": { value: "1.5rem" },
    "3xl": { value: "1.875rem" },
    "4xl": { value: "2.25rem" },
  },
  fontWeights: { normal: { value: "400" }, semibold: { value: "600" }, bold: { value: "700" } },
  lineHeights: { tight: { value: "1.2" }, normal: { value: "1.4" } },
  spacing: scale,
  sizes: {
    ...scale,
    full: { value: "100%" },
    min: { value: "min-content" },
    max: { value: "max-content" },
    fit: { value: "fit-content" },
    "2xs": { value: "16rem" },
    xs: { value: "20rem" },
    sm: { value: "24rem" },
    md: { value: "28rem" },
    lg: { value: "32rem" },
    xl: { value: "36rem" },
    /** The least that a gloved thumb hits, and a key of the reading pad. */
    touch: { value: "44px" },
    key: { value: "48px" },
  },
  radii: {
    sm: { value: "4px" },
    md: { value: "6px" },
    lg: { value: "10px" },
    full: { value: "9999px" },
  },
  zIndex: {
    docked: { value: 10 },
    overlay: { value: 1300 },
    popover: { value: 1500 },
    toast: { value: 1700 },
  },
  durations: { fast: { value: "120ms" }, moderate: { value: "200ms" } },
});

const pair = (day: string, dim: string) => ({ value: { base: day, _dark: dim } });

export const semanticTokens = defineSemanticTokens({
  colors: {
    paper: pair("#f3efe4", "#14171a"),
    sheet: pair("#fffef9", "#1a1e21"),
    sand: pair("#e9e2d2", "#101315"),
    key: pair("#fffef9", "#23292c"),
    ink: pair("#17272b", "#d3ccbb"),
    onInk: pair("#fffef9", "#14171a"),
    quiet: pair("#4c5d62", "#9aa09a"),
    line: pair("#d9d0bc", "#343b3e"),
    faint: pair("#a49d8d", "#62696a"),
    half: pair("#dfe6e2", "#2a3436"),
    lamp: pair("#ffc94d", "#c9973a"),
    lampWash: pair("#fff8e6", "#2a2519"),
    onLamp: pair("#17272b", "#14110a"),
    sea: pair("#0d5a61", "#4d9a9b"),
    onSea: pair("#fffef9", "#0d1416"),
    shade: pair("rgba(23, 39, 43, 0.45)", "rgba(0, 0, 0, 0.6)"),
  },
  shadows: {
    lifted: pair("0 4px 18px rgba(23, 39, 43, 0.18)", "0 4px 18px rgba(0, 0, 0, 0.6)"),
  },
});
