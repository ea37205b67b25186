/** Dorrik's look: paper and ink by day, a dim low-glare ground in cupboards, lamp yellow for focus, sea green for action.
 *
 * Built on the bare base of the component library: what it brings of tokens and recipes is not sent to a tablet.
 */
import { createSystem, defaultBaseConfig, defineConfig } from "@chakra-ui/react";
import * as controls from "./recipes/controls";
import * as surfaces from "./recipes/surfaces";
import { semanticTokens, tokens } from "./tokens";

const { input, ...controlSlots } = controls;
const { heading, link, kbd, ...surfaceSlots } = surfaces;

export const system = createSystem(
  defaultBaseConfig,
  defineConfig({
    cssVarsPrefix: "d",
    preflight: true,
    globalCss: {
      "*": {
        "--global-font-body": "fonts.body",
        "--global-font-mono": "fonts.mono",
        "--global-color-border": "colors.line",
      },
      "html, body": { bg: "paper", color: "ink", fontFamily: "body", fontSize: "15px", lineHeight: "1.4" },
      // Where counters stand under the thumb, what is told in passing stands above them.
      "html[data-dock] [data-scope=toast][data-part=group]": {
        bottom: { base: "calc(13rem + env(safe-area-inset-bottom))!", md: "11rem!" },
      },
      "*:focus-visible": { outline: "3px solid var(--d-colors-lamp)", outlineOffset: "1px" },
      "*, *::before, *::after": {
        "@media (prefers-reduced-motion: reduce)": { animationDuration: "0s!", transitionDuration: "0s!" },
      },
    },
    theme: {
      breakpoints: { sm: "30rem", md: "48rem", lg: "64rem", xl: "80rem" },
      keyframes: {
        "d-appear": { from: { opacity: "0", translate: "0 6px" }, to: { opacity: "1", translate: "0 0" } },
      },
      tokens,
      semanticTokens,
      recipes: { input, heading, link, kbd },
      slotRecipes: { ...controlSlots, ...surfaceSlots },
    },
  }),
);
