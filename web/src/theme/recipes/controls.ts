/** How what is tapped, typed or chosen looks: paper and ink, 44 px high, one lamp-yellow focus. */
import { defineRecipe, defineSlotRecipe } from "@chakra-ui/react";
import {
  checkboxAnatomy,
  comboboxAnatomy,
  datePickerAnatomy,
  fileUploadAnatomy,
  listboxAnatomy,
  nativeSelectAnatomy,
} from "@chakra-ui/react/anatomy";

const box = {
  width: "full",
  minWidth: "0",
  minHeight: "touch",
  px: "3",
  borderWidth: "1.5px",
  borderColor: "line",
  borderRadius: "md",
  bg: "sheet",
  color: "ink",
  textAlign: "start",
  fontSize: "inherit",
  appearance: "none",
  _placeholder: { color: "quiet" },
  _hover: { borderColor: "faint" },
  _invalid: { borderColor: "ink", borderStyle: "dashed" },
  _disabled: { opacity: 0.55, cursor: "not-allowed" },
} as const;

const floating = {
  bg: "sheet",
  color: "ink",
  borderWidth: "1.5px",
  borderColor: "ink",
  borderRadius: "md",
  boxShadow: "lifted",
  zIndex: "popover",
  outline: "0",
} as const;

export const input = defineRecipe({
  className: "d-input",
  base: box,
  variants: { figure: { true: { fontFamily: "mono", fontVariantNumeric: "tabular-nums" } } },
});

export const nativeSelect = defineSlotRecipe({
  className: "d-select",
  slots: nativeSelectAnatomy.keys(),
  base: {
    root: { position: "relative", width: "full", minWidth: "0" },
    field: { ...box, pe: "9", textOverflow: "ellipsis" },
    indicator: {
      position: "absolute",
      insetEnd: "3",
      top: "50%",
      transform: "translateY(-50%)",
      pointerEvents: "none",
      color: "quiet",
      height: "4",
      width: "4",
    },
  },
});

const mark = {
  display: "inline-grid",
  placeItems: "center",
  flexShrink: "0",
  width: "6",
  height: "6",
  borderWidth: "2px",
  borderColor: "ink",
  borderRadius: "sm",
  bg: "sheet",
  color: "onInk",
  _checked: { bg: "ink" },
  "& svg": { width: "4", height: "4" },
} as const;

export const checkbox = defineSlotRecipe({
  className: "d-checkbox",
  slots: checkboxAnatomy.keys(),
  base: {
    root: {
      display: "inline-flex",
      alignItems: "center",
      gap: "3",
      minHeight: "touch",
      cursor: "pointer",
      _disabled: { opacity: 0.55, cursor: "not-allowed" },
    },
    label: { userSelect: "none" },
    control: { ...mark, _focusVisible: { outline: "3px solid", outlineColor: "lamp", outlineOffset: "1px" } },
    group: { display: "flex", flexDirection: "column" },
  },
});

export const combobox = defineSlotRecipe({
  className: "d-combobox",
  slots: comboboxAnatomy.keys(),
  base: {
    root: { display: "flex", flexDirection: "column", gap: "1", width: "full", minWidth: "0" },
    label: { fontWeight: "semibold" },
    control: { position: "relative" },
    input: box,
    content: {
      ...floating,
      display: "flex",
      flexDirection: "column",
      maxHeight: "min(22rem, var(--available-height, 22rem))",
      overflowY: "auto",
      p: "1",
    },
    item: {
      display: "flex",
      alignItems: "baseline",
      flexWrap: "wrap",
      columnGap: "3",
      minHeight: "touch",
      px: "3",
      py: "2",
      borderRadius: "sm",
      cursor: "pointer",
      textAlign: "start",
      _highlighted: { bg: "lampWash", boxShadow: "inset 3px 0 0 {colors.lamp}" },
    },
    empty: { px: "3", py: "2", color: "quiet" },
    itemGroupLabel: { px: "3", pt: "2", fontSize: "sm", color: "quiet" },
  },
});

export const listbox = defineSlotRecipe({
  className: "d-list",
  slots: listboxAnatomy.keys(),
  base: {
    root: { display: "flex", flexDirection: "column", gap: "2", width: "full" },
    content: {
      height: "13.5rem",
      overflowY: "auto",
      borderWidth: "1px",
      borderColor: "line",
      borderRadius: "md",
      bg: "sheet",
    },
    item: {
      display: "flex",
      alignItems: "center",
      gap: "3",
      minHeight: "key",
      px: "2.5",
      py: "1",
      borderBottomWidth: "1px",
      borderColor: "line",
      cursor: "pointer",
      "& small": { color: "quiet" },
      _highlighted: { bg: "lampWash", boxShadow: "inset 4px 0 0 {colors.lamp}" },
    },
    itemText: { flex: "1" },
    empty: { px: "2.5", py: "2" },
  },
});

const turn = {
  display: "inline-grid",
  placeItems: "center",
  width: "touch",
  height: "touch",
  borderRadius: "md",
  _hover: { bg: "lampWash" },
  _disabled: { opacity: 0.35 },
  "& svg": { width: "5", height: "5" },
} as const;

export const datePicker = defineSlotRecipe({
  className: "d-date",
  slots: datePickerAnatomy.keys(),
  base: {
    root: { position: "relative", width: "full" },
    control: { position: "absolute", insetEnd: "0", top: "0" },
    trigger: { ...turn, color: "quiet" },
    content: { ...floating, p: "3", width: "max-content" },
    view: { display: "flex", flexDirection: "column", gap: "2" },
    viewControl: { display: "flex", alignItems: "center", justifyContent: "space-between", gap: "2" },
    viewTrigger: { minHeight: "touch", px: "3", fontWeight: "bold", borderRadius: "md", _hover: { bg: "lampWash" } },
    prevTrigger: turn,
    nextTrigger: turn,
    table: { borderCollapse: "separate", borderSpacing: "0" },
    tableHeader: { py: "1", fontSize: "sm", fontWeight: "normal", color: "quiet", textAlign: "center" },
    tableCell: { textAlign: "center" },
    tableCellTrigger: {
      display: "inline-grid",
      placeItems: "center",
      minWidth: "touch",
      minHeight: "touch",
      px: "1",
      borderRadius: "md",
      fontVariantNumeric: "tabular-nums",
      cursor: "pointer",
      _hover: { bg: "lampWash" },
      "&[data-outside-range]": { color: "faint" },
      "&[data-today]": { fontWeight: "bold", textDecoration: "underline", textUnderlineOffset: "3px" },
      "&[data-selected]": { bg: "ink", color: "onInk", fontWeight: "bold" },
    },
  },
});

export const fileUpload = defineSlotRecipe({
  className: "d-files",
  slots: fileUploadAnatomy.keys(),
  base: {
    root: { display: "flex", flexDirection: "column", gap: "2", width: "full", alignItems: "flex-start" },
    label: { fontWeight: "semibold" },
    dropzone: {
      display: "flex",
      flexDirection: "column",
      alignItems: "center",
      justifyContent: "center",
      gap: "2",
      width: "full",
      minHeight: "24",
      p: "5",
      textAlign: "center",
      borderWidth: "2px",
      borderStyle: "dashed",
      borderColor: "faint",
      borderRadius: "lg",
      bg: "sheet",
      cursor: "pointer",
      _dragging: { borderColor: "lamp", bg: "lampWash" },
    },
    dropzoneContent: { display: "flex", flexDirection: "column", gap: "1" },
    trigger: {},
  },
});
