import a11y from "eslint-plugin-jsx-a11y";
import hooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";

/** From the bottom up: a folder may import what stands below its row, and nothing beside it. */
const LAYERS = [
  ["theme", "api"],
  ["ui", "judge", "typeset"],
  ["inspection"],
  ["drawings"],
  ["fields", "rules", "search", "session"],
  ["drafts"],
  ["photos", "limits", "putback", "crossings", "handover"],
  ["papers", "comeback", "price", "occupier"],
  // Screens of the firm, and the stages of an inspection.
  ["home", "opinions", "register", "firm", "account", "people", "audit", "signin", "kit", "device"],
  ["portfolio", "planner"],
  ["brief", "intake", "walk", "isolation", "boards", "measurements", "observations", "report"],
  ["bench"],
  ["shell"],
];

const boundaries = LAYERS.flatMap((row, at) =>
  row.map((folder) => {
    const barred = [...row.filter((other) => other !== folder), ...LAYERS.slice(at + 1).flat()];
    const group = barred.map((name) => `../${name}/*`);
    const message = `${folder}/ imports only what stands below it in LAYERS (eslint.config.js).`;
    return {
      files: [`src/${folder}/**/*.{ts,tsx}`],
      rules: { "no-restricted-imports": ["error", { patterns: group.length ? [{ group, message }] : [] }] },
    };
  }),
);

/** What the kit draws; a screen that writes one of these by hand has left it. */
const RAW = "button|input|select|textarea|dialog|table|details|progress|meter";
/** Layout and words come from Chakra as they are; what is tapped, typed or told comes from the kit. */
const LAYOUT = [
  "Box",
  "Center",
  "Flex",
  "Grid",
  "GridItem",
  "Heading",
  "Image",
  "Link",
  "SimpleGrid",
  "Span",
  "Stack",
  "Text",
  "VStack",
  "VisuallyHidden",
  "Wrap",
];
/** Where the kit has nothing: figures of the grid and their pad are entered without the tablet's own keyboard. */
const OWN = [
  "src/fields/ReadingCell.tsx",
  "src/shell/ReadingPad.tsx",
  "src/measurements/TestGrid.tsx",
  "src/bench/PointTable.tsx",
  "src/drawings/**",
];

const kit = {
  files: ["src/**/*.tsx"],
  ignores: ["src/ui/**", "src/**/*.test.tsx", ...OWN],
  rules: {
    "no-restricted-syntax": [
      "error",
      { selector: `JSXOpeningElement > JSXIdentifier[name=/^(${RAW})$/]`, message: "Use the kit (src/ui)." },
      {
        selector: `ImportDeclaration[source.value='@chakra-ui/react'] > ImportSpecifier[imported.name!=/^(${LAYOUT.join("|")}|Table|ChakraProvider)$/]`,
        message: "Only layout and words come from Chakra itself; controls and surfaces come from the kit (src/ui).",
      },
    ],
  },
};

export default tseslint.config(
  { ignores: ["src/api/*.gen.ts"] },
  ...tseslint.configs.strict,
  hooks.configs.flat.recommended,
  a11y.flatConfigs.strict,
  {
    rules: {
      "@typescript-eslint/no-non-null-assertion": "off",
      // What was opened on purpose takes the focus; the elements themselves never do.
      "jsx-a11y/no-autofocus": ["error", { ignoreNonDOM: true }],
    },
  },
  {
    // What takes longer to read is two components.
    files: ["src/**/*.{ts,tsx}"],
    ignores: ["src/**/*.test.*"],
    rules: { "max-lines-per-function": ["error", 140] },
  },
  kit,
  ...boundaries,
);
