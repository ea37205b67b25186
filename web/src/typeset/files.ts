/** What the typesetter of a device needs: itself, the templates of the papers, and the fonts that ship with them. */
import compiler from "@myriaddreamin/typst-ts-web-compiler/wasm?url";
import renderer from "@myriaddreamin/typst-ts-renderer/wasm?url";
import { filesHere, takeFiles } from "../api/shelf";

export { compiler, renderer };

/** By their addresses. */
export const fonts = Object.values(
  import.meta.glob<string>("../../../dorrik/report/fonts/*.ttf", { query: "?url", import: "default", eager: true }),
);

const SHELF = "typesetter";
const all = [compiler, renderer, ...fonts];

/** Fetched once, and kept by the service worker from then on. Fails where one cannot be had. */
export const takeTypesetterAlong = (): Promise<void> => takeFiles(SHELF, all);

/** Whether all of it is on this device, and what it weighs there, bytes. */
export const typesetterHere = () => filesHere(SHELF, all);
