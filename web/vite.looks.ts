/** Tokens, reset and base of the look as a style sheet: read from the theme as the application is built, so that the
 * first picture waits for no script to write them. */
import { serializeStyles } from "@emotion/serialize";
import { compile, middleware, prefixer, serialize, stringify } from "stylis";
import { type Plugin, runnerImport } from "vite";

const SHEET = /\/src\/theme\/looks\.css$/;

export const looks = (): Plugin => ({
  name: "looks",
  enforce: "pre",
  async load(id) {
    if (!SHEET.test(id)) return null;
    const { module, dependencies } = await runnerImport<typeof import("./src/theme/system")>("./src/theme/system.ts");
    for (const file of dependencies) this.addWatchFile(file);
    const { layers, _global } = module.system;
    return [layers.atRule, written(_global)].join("\n");
  },
});

/** Styles as the component library holds them, as text. */
const written = (styles: unknown): string =>
  serialize(
    compile(serializeStyles(styles as Parameters<typeof serializeStyles>[0]).styles),
    middleware([prefixer, stringify]),
  );
