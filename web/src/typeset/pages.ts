/** The pages of a paper, each as a drawing of its own. */

/** width, height: in points. */
export interface Page {
  width: number;
  height: number;
  drawing: Blob;
}

/** The typesetter draws all pages into one, below each other, with what they share (outlines of letters, places that are
 * cut out) once. Its invisible text to select is left out: a picture has no use for it. */
export function pagesOf(svg: string): Page[] {
  const root = new DOMParser().parseFromString(svg, "image/svg+xml").documentElement;
  for (const part of root.querySelectorAll("foreignObject")) part.remove();
  const text = new XMLSerializer();
  const parts = [...root.children];
  const isPage = (part: Element) => part.classList.contains("typst-page");
  const shared = parts
    .filter((part) => !isPage(part))
    .map((part) => text.serializeToString(part))
    .join("");
  return parts.filter(isPage).map((page) => {
    const [width, height] = [
      Number(page.getAttribute("data-page-width")),
      Number(page.getAttribute("data-page-height")),
    ];
    page.removeAttribute("transform");
    const drawing =
      `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" ` +
      `xmlns:h5="http://www.w3.org/1999/xhtml" viewBox="0 0 ${width} ${height}" width="${width}" height="${height}">` +
      `${shared}${text.serializeToString(page)}</svg>`;
    return { width, height, drawing: new Blob([drawing], { type: "image/svg+xml" }) };
  });
}
