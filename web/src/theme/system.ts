/** Dorrik's look: paper and ink by day, a dim low-glare ground in cupboards, lamp yellow for focus, sea green for action. */
import { createSystem, defaultConfig, defineConfig } from "@chakra-ui/react";

const pair = (day: string, dim: string) => ({ value: { base: day, _dark: dim } });

export const system = createSystem(
  defaultConfig,
  defineConfig({
    cssVarsPrefix: "d",
    globalCss: {
      "html, body": { bg: "paper", color: "ink", fontFamily: "body", fontSize: "15px", lineHeight: "1.4" },
      "*:focus-visible": { outline: "3px solid var(--d-colors-lamp)", outlineOffset: "1px" },
    },
    theme: {
      tokens: {
        fonts: {
          body: { value: "'Atkinson Hyperlegible Next', 'Dorrik Signs', system-ui, sans-serif" },
          heading: { value: "'Atkinson Hyperlegible Next', 'Dorrik Signs', system-ui, sans-serif" },
          mono: { value: "'Atkinson Hyperlegible Mono', 'Dorrik Signs', ui-monospace, monospace" },
        },
      },
      semanticTokens: {
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
        },
      },
    },
  }),
);
