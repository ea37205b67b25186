/** The typesetter in a thread of its own: the same templates that the server sets, drawn here. */
import "./noCodeOfText";
import initRenderer, { TypstRendererBuilder, type TypstRenderer } from "@myriaddreamin/typst-ts-renderer";
import initCompiler, { TypstCompilerBuilder, type TypstCompiler } from "@myriaddreamin/typst-ts-web-compiler";
import { compiler as compilerFile, fonts, renderer as rendererFile } from "./files";
import type { Asked, Job, Told } from "./messages";

const thread = self as unknown as { onmessage: (event: { data: Asked }) => void; postMessage(told: Told): void };
const ROOT = "../../../dorrik/report";
const templates = import.meta.glob<string>("../../../dorrik/report/**/*.typ", {
  query: "?raw",
  import: "default",
  eager: true,
});

/** Pages, their styles and what they share; without the scripts by which a page could be worked with. */
const PARTS = 1 | 2 | 4;
/** How much is told of a mistake in a template: in whole sentences. */
const IN_FULL = 2;

interface Tools {
  compiler: TypstCompiler;
  renderer: TypstRenderer;
  /** The fonts of drawings, as a style that brings them along. */
  faces: string;
}
let tools: Promise<Tools> | undefined;

async function start(): Promise<Tools> {
  const [faces] = await Promise.all([
    Promise.all(fonts.map(bytes)),
    initCompiler({ module_or_path: compilerFile }),
    initRenderer({ module_or_path: rendererFile }),
  ]);
  const builder = new TypstCompilerBuilder();
  // It reads what it is given here, and nothing else.
  builder.set_dummy_access_model();
  for (const face of faces) await builder.add_raw_font(face);
  const compiler = await builder.build();
  for (const [path, content] of Object.entries(templates)) compiler.add_source(path.slice(ROOT.length), content);
  return { compiler, renderer: await new TypstRendererBuilder().build(), faces: facesOf(faces) };
}

/** The family in which drawings are lettered (dorrik/report/drawn.py), regular and bold. */
const LETTERING = "Atkinson Hyperlegible Next";

function facesOf(faces: Uint8Array[]): string {
  const face = (file: RegExp, weight: number) => {
    const bytes = faces[fonts.findIndex((address) => file.test(address))];
    if (!bytes) return "";
    const text = Array.from(bytes, (byte) => String.fromCharCode(byte)).join("");
    return `@font-face{font-family:'${LETTERING}';font-weight:${weight};src:url(data:font/ttf;base64,${btoa(text)})}`;
  };
  return `<style>${face(/Next-Regular/, 400)}${face(/Next-Bold/, 700)}</style>`;
}

/** Drawings lie in a page as pictures, which see no font of anybody's but what they bring along. */
const lettered = (svg: string, faces: string): string =>
  svg.replace(/(data:image\/svg\+xml;base64,)([A-Za-z0-9+/=]+)/g, (whole, head: string, data: string) => {
    const drawing = atob(data);
    if (!drawing.includes(LETTERING)) return whole;
    return head + btoa(drawing.replace(/<svg[^>]*>/, (tag) => tag + faces));
  });

async function bytes(address: string): Promise<Uint8Array> {
  const font = await fetch(address);
  if (!font.ok) throw new Error(`A font is not there (${font.status}).`);
  return new Uint8Array(await font.arrayBuffer());
}

async function typeset({ template, inputs, files }: Job): Promise<string> {
  const { compiler, renderer, faces } = await (tools ??= start());
  const text = new TextEncoder();
  for (const [path, content] of Object.entries(files)) compiler.map_shadow(path, text.encode(content));
  try {
    const { result, diagnostics } = compiler.compile(`/${template}.typ`, Object.entries(inputs), "vector", IN_FULL);
    if (!result) throw new Error(JSON.stringify(diagnostics).slice(0, 2000));
    const session = renderer.session_from_artifact(result, "vector");
    try {
      return lettered(renderer.svg_data(session, PARTS), faces);
    } finally {
      session.free();
    }
  } finally {
    for (const path of Object.keys(files)) compiler.unmap_shadow(path);
  }
}

let before: Promise<unknown> = Promise.resolve();
thread.onmessage = ({ data: { n, job } }) => {
  before = before.then(async () => {
    try {
      thread.postMessage({ n, svg: await typeset(job) });
    } catch (error) {
      tools = undefined;
      thread.postMessage({ n, error: String(error) });
    }
  });
};
