import { describe, expect, it } from "vitest";
import { pagesOf } from "./pages";

const SVG = `<svg class="typst-doc" viewBox="0 0 842 1438" xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink">
<style>.tsel { left: 0; }</style>
<defs class="glyph"><path id="g1" d="M0 0"/></defs>
<g class="typst-page" transform="translate(0, 0)" data-page-width="596" data-page-height="842"><use xlink:href="#g1"/><foreignObject><div>unseen</div></foreignObject></g>
<g class="typst-page" transform="translate(0, 842)" data-page-width="842" data-page-height="596"><rect id="second" width="5" height="5"/></g>
</svg>`;

describe("the pages of a paper", () => {
  it("are drawings of their own, each with what all of them share, in its own place", async () => {
    const pages = pagesOf(SVG);
    expect(pages.map(({ width, height }) => [width, height])).toEqual([
      [596, 842],
      [842, 596],
    ]);
    const [first, second] = await Promise.all(pages.map(({ drawing }) => drawing.text()));
    expect(first).toContain('viewBox="0 0 596 842"');
    expect(second).toContain('viewBox="0 0 842 596"');
    for (const text of [first, second]) {
      expect(text).toContain('id="g1"');
      expect(text).not.toContain("translate(");
      expect(text).not.toContain("unseen");
    }
    expect(first).not.toContain('id="second"');
    expect(second).toContain('id="second"');
  });
});
