/** How what carries something looks: what opens over the work, what tells, and what stands in lists. */
import { defineRecipe, defineSlotRecipe } from "@chakra-ui/react";
import {
  dialogAnatomy,
  drawerAnatomy,
  menuAnatomy,
  popoverAnatomy,
  tableAnatomy,
  tabsAnatomy,
  toastAnatomy,
  tooltipAnatomy,
} from "@chakra-ui/react/anatomy";

const edged = { borderWidth: "1.5px", borderColor: "ink", borderRadius: "lg", boxShadow: "lifted" } as const;
const appear = { _open: { animation: "d-appear {durations.fast} ease-out" } } as const;

const backdrop = { position: "fixed", inset: "0", bg: "shade", zIndex: "overlay", ...appear } as const;
const sheetBody = {
  header: { display: "flex", alignItems: "baseline", gap: "4", px: "5", pt: "5", pb: "2" },
  title: { fontSize: "xl", fontWeight: "bold", lineHeight: "tight", flex: "1" },
  description: { color: "quiet" },
  body: { px: "5", py: "2", flex: "1", minHeight: "0", overflowY: "auto" },
  footer: { display: "flex", flexWrap: "wrap", gap: "3", justifyContent: "flex-end", px: "5", pt: "3", pb: "5" },
  closeTrigger: { flexShrink: "0" },
} as const;

export const dialog = defineSlotRecipe({
  className: "d-dialog",
  slots: dialogAnatomy.keys(),
  base: {
    backdrop,
    positioner: {
      position: "fixed",
      inset: "0",
      display: "flex",
      alignItems: "flex-start",
      justifyContent: "center",
      overflow: "auto",
      overscrollBehavior: "contain",
      zIndex: "overlay",
      p: { base: "2", md: "8" },
    },
    content: {
      display: "flex",
      flexDirection: "column",
      width: "full",
      maxWidth: "46rem",
      maxHeight: "full",
      bg: "paper",
      color: "ink",
      outline: "0",
      ...edged,
      ...appear,
    },
    ...sheetBody,
  },
});

export const drawer = defineSlotRecipe({
  className: "d-drawer",
  slots: drawerAnatomy.keys(),
  base: {
    backdrop,
    positioner: { position: "fixed", inset: "0", display: "flex", justifyContent: "flex-end", zIndex: "overlay" },
    content: {
      display: "flex",
      flexDirection: "column",
      width: "full",
      maxWidth: "28rem",
      height: "100dvh",
      bg: "paper",
      color: "ink",
      outline: "0",
      borderLeftWidth: "1.5px",
      borderColor: "ink",
      boxShadow: "lifted",
      ...appear,
    },
    ...sheetBody,
  },
});

const floating = { ...edged, borderRadius: "md", bg: "sheet", color: "ink", zIndex: "popover", outline: "0" } as const;

export const menu = defineSlotRecipe({
  className: "d-menu",
  slots: menuAnatomy.keys(),
  base: {
    content: {
      ...floating,
      p: "1",
      minWidth: "12rem",
      maxHeight: "var(--available-height)",
      overflowY: "auto",
      ...appear,
    },
    item: {
      display: "flex",
      alignItems: "center",
      gap: "3",
      minHeight: "touch",
      px: "3",
      borderRadius: "sm",
      cursor: "pointer",
      textAlign: "start",
      textDecoration: "none",
      width: "full",
      _highlighted: { bg: "lampWash", boxShadow: "inset 3px 0 0 {colors.lamp}" },
      _disabled: { opacity: 0.5 },
    },
    separator: { height: "1px", bg: "line", my: "1" },
    itemGroupLabel: { px: "3", pt: "2", fontSize: "sm", color: "quiet" },
  },
});

export const popover = defineSlotRecipe({
  className: "d-popover",
  slots: popoverAnatomy.keys(),
  base: {
    content: { ...floating, width: "20rem", maxWidth: "calc(100vw - 1rem)", ...appear },
    body: { p: "4", maxHeight: "var(--available-height)", overflowY: "auto" },
    title: { fontWeight: "bold", mb: "2" },
  },
});

export const tooltip = defineSlotRecipe({
  className: "d-tooltip",
  slots: tooltipAnatomy.keys(),
  base: {
    content: {
      bg: "ink",
      color: "onInk",
      borderRadius: "sm",
      px: "3",
      py: "1.5",
      fontSize: "sm",
      maxWidth: "xs",
      zIndex: "popover",
    },
  },
});

export const toast = defineSlotRecipe({
  className: "d-toast",
  slots: toastAnatomy.keys(),
  base: {
    root: {
      display: "flex",
      alignItems: "center",
      gap: "4",
      width: "full",
      minHeight: "key",
      px: "4",
      py: "2",
      bg: "ink",
      color: "onInk",
      borderRadius: "md",
      boxShadow: "lifted",
      zIndex: "var(--z-index)",
      translate: "var(--x) var(--y)",
      scale: "var(--scale)",
      opacity: "var(--opacity)",
      height: "var(--height)",
      transition: "translate {durations.moderate}, opacity {durations.moderate}",
    },
    title: { flex: "1", fontWeight: "semibold" },
    description: { flex: "1" },
    actionTrigger: {
      minHeight: "touch",
      px: "3",
      fontWeight: "bold",
      textDecoration: "underline",
      textUnderlineOffset: "3px",
      cursor: "pointer",
    },
    closeTrigger: { minHeight: "touch", minWidth: "9", cursor: "pointer" },
  },
});

export const tabs = defineSlotRecipe({
  className: "d-tabs",
  slots: tabsAnatomy.keys(),
  base: {
    root: { display: "flex", flexDirection: "column", gap: "4" },
    list: { display: "flex", gap: "1", overflowX: "auto", borderBottomWidth: "1.5px", borderColor: "line" },
    trigger: {
      minHeight: "touch",
      px: "4",
      whiteSpace: "nowrap",
      color: "quiet",
      cursor: "pointer",
      borderBottomWidth: "3px",
      borderColor: "transparent",
      mb: "-1.5px",
      _selected: { color: "ink", fontWeight: "bold", borderColor: "ink" },
    },
    content: { outlineOffset: "4px" },
  },
});

export const table = defineSlotRecipe({
  className: "d-table",
  slots: tableAnatomy.keys(),
  base: {
    root: { width: "full", borderCollapse: "collapse", textAlign: "start" },
    row: { borderBottomWidth: "1px", borderColor: "line" },
    columnHeader: { px: "2", py: "2", fontSize: "sm", fontWeight: "bold", textAlign: "start", verticalAlign: "bottom" },
    cell: { px: "2", py: "2", verticalAlign: "top", '&[data-figure="true"]': { fontFamily: "mono", textAlign: "end" } },
    caption: { textAlign: "start", color: "quiet", fontSize: "sm", py: "2" },
  },
});

export const heading = defineRecipe({
  className: "d-heading",
  base: { fontFamily: "heading", fontWeight: "bold", lineHeight: "tight" },
  variants: { size: { md: { fontSize: "lg" }, lg: { fontSize: "xl" }, xl: { fontSize: "2xl" } } },
  defaultVariants: { size: "xl" },
});

export const link = defineRecipe({
  className: "d-link",
  base: {
    color: "ink",
    textDecoration: "underline",
    textDecorationColor: "faint",
    textUnderlineOffset: "3px",
    borderRadius: "sm",
    _hover: { textDecorationColor: "ink" },
  },
});

export const kbd = defineRecipe({
  className: "d-kbd",
  base: {
    display: "inline-block",
    px: "1",
    ml: "1",
    borderWidth: "1px",
    borderColor: "currentColor",
    borderRadius: "sm",
    fontFamily: "mono",
    fontSize: "xs",
    fontWeight: "normal",
    opacity: 0.75,
  },
});
