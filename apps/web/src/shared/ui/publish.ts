// A stack of strips as a picture of its own, 1920 x 1080, for those who put it into a film: title, conditions, the strips, what stands behind them.
// As SVG, self-contained with its fonts, or as PNG drawn from it. What is on the page is taken as it is, in the face that is shown.

export interface Caption {
  title: string;
  /** Conditions, then what the evidence is; one line each. */
  lines: readonly string[];
}

export const WIDE = 1920;
export const HIGH = 1080;
const MARGIN = 84;
const TITLE = 60;
const LINE = 34;

/** The drawings one under the other, in their order; colours of the page's face put in for its variables. Throws when there is none. */
export function composeSvg(drawings: readonly SVGSVGElement[], caption: Caption, fonts = ""): string {
  if (drawings.length === 0) throw new RangeError("drawings must hold at least one svg, got none");
  const colour = colours();
  const sizes = drawings.map(sizeOf);
  const width = Math.max(...sizes.map((s) => s.width));
  const height = sizes.reduce((sum, s) => sum + s.height, 0);
  const texts = caption.lines.flatMap((l) => wrapped(l, LETTERS));
  const top = MARGIN + TITLE + LINE * texts.length + 40;
  const scale = Math.min((WIDE - 2 * MARGIN) / width, (HIGH - top - MARGIN) / height);
  const starts = sizes.map((_, i) => sizes.slice(0, i).reduce((sum, s) => sum + s.height, 0));
  const parts = drawings.map((d, i) => `<g transform="translate(0 ${starts[i] ?? 0})">${innerOf(d, colour)}</g>`);
  const lines = texts.map(
    (l, i) => `<text x="${MARGIN}" y="${MARGIN + TITLE + LINE * (i + 1)}" font-size="27" fill="${colour("--soft")}">${escaped(l)}</text>`,
  );
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="${WIDE}" height="${HIGH}" viewBox="0 0 ${WIDE} ${HIGH}" font-family="${TEXT_FONT}">`,
    `<title>${escaped(caption.title)}</title>`,
    `<style>${fonts}.num{font-family:${MONO_FONT};font-variant-numeric:tabular-nums}</style>`,
    `<rect width="${WIDE}" height="${HIGH}" fill="${colour("--ground")}"/>`,
    `<text x="${MARGIN}" y="${MARGIN + TITLE - 18}" font-size="${Math.min(50, Math.floor((WIDE - 2 * MARGIN) / (0.56 * Math.max(1, caption.title.length))))}" font-weight="600" font-family="${HEAD_FONT}" fill="${colour("--ink")}">${escaped(caption.title)}</text>`,
    ...lines,
    `<g transform="translate(${MARGIN} ${top}) scale(${Math.round(scale * 1000) / 1000})">${parts.join("")}</g>`,
    "</svg>",
  ].join("\n");
}

const TEXT_FONT = "'Atkinson Hyperlegible Next Variable',sans-serif";
const MONO_FONT = "'Atkinson Hyperlegible Mono Variable',monospace";
const HEAD_FONT = "'Bricolage Grotesque Variable',sans-serif";

/** Letters in a line of 27 px, wide ones allowed for. */
const LETTERS = 118;

/** At blanks; a word longer than a line stands alone. */
function wrapped(text: string, most: number): string[] {
  const lines: string[] = [];
  for (const word of text.split(" ")) {
    const last = lines.at(-1);
    if (last === undefined || last.length + 1 + word.length > most) lines.push(word);
    else lines[lines.length - 1] = `${last} ${word}`;
  }
  return lines;
}

const escaped = (text: string): string => text.replaceAll("&", "&amp;").replaceAll("<", "&lt;").replaceAll(">", "&gt;");

function sizeOf(svg: SVGSVGElement): { width: number; height: number } {
  const number = (name: string): number => Number(svg.getAttribute(name)) || 0;
  return { width: number("width"), height: number("height") };
}

function colours(): (name: string) => string {
  const style = getComputedStyle(document.documentElement);
  return (name) => style.getPropertyValue(name).trim() || "#000";
}

/** Markup without the page's own classes, links and variables. */
function innerOf(svg: SVGSVGElement, colour: (name: string) => string): string {
  const copy = svg.cloneNode(true) as SVGSVGElement;
  for (const link of copy.querySelectorAll("a")) link.replaceWith(...link.childNodes);
  for (const element of copy.querySelectorAll("[class]")) element.setAttribute("class", element.classList.contains("num") ? "num" : "");
  const markup = new XMLSerializer().serializeToString(copy);
  const inner = markup.slice(markup.indexOf(">") + 1, markup.lastIndexOf("<"));
  return inner.replaceAll(/var\((--[\w-]+)\)/g, (_, name: string) => colour(name)).replaceAll(' xmlns="http://www.w3.org/1999/xhtml"', "");
}

/** The page's own fonts as rules that need no network: a picture is drawn alone. A font that cannot be read is left out. */
export async function fontRules(): Promise<string> {
  const rules = [...document.styleSheets].flatMap((sheet) => {
    try {
      return [...sheet.cssRules].filter((r): r is CSSFontFaceRule => r instanceof CSSFontFaceRule);
    } catch {
      return [];
    }
  });
  // Western letters are enough for what is written here; the rest of each family would make the file many times as large.
  const latin = rules.filter((r) => /U\+0{0,4}-0*FF/i.test(r.style.getPropertyValue("unicode-range")));
  const embedded = await Promise.all(
    latin.map(async (rule) => {
      const url = /url\(["']?([^"')]+)["']?\)/.exec(rule.style.getPropertyValue("src"))?.[1];
      if (url === undefined) return "";
      const reply = await fetch(new URL(url, rule.parentStyleSheet?.href ?? location.href)).catch(() => null);
      if (reply?.ok !== true) return "";
      const data = await dataUrl(await reply.blob());
      const family = rule.style.getPropertyValue("font-family");
      return `@font-face{font-family:${family};font-weight:${rule.style.getPropertyValue("font-weight") || "400"};src:url(${data})}`;
    }),
  );
  return embedded.join("");
}

const dataUrl = (blob: Blob): Promise<string> =>
  new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () => resolve(typeof reader.result === "string" ? reader.result : "");
    reader.onerror = () => reject(reader.error ?? new Error("not read"));
    reader.readAsDataURL(blob);
  });

/** Drawn at its full size. */
export async function pngOf(svg: string): Promise<Blob> {
  const image = new Image(WIDE, HIGH);
  image.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(svg)}`;
  await image.decode();
  const canvas = document.createElement("canvas");
  [canvas.width, canvas.height] = [WIDE, HIGH];
  canvas.getContext("2d")?.drawImage(image, 0, 0);
  return new Promise((resolve, reject) =>
    canvas.toBlob((b) => (b === null ? reject(new Error("this browser made no picture")) : resolve(b)), "image/png"),
  );
}
