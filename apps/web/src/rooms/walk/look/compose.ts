// Takes drawn beside each other on one canvas, at matched field, each with its measured path and its name: the same on the page, in the clip and
// in the still that leave it.

export interface Pane {
  /** Null: not decoded. */
  frame: ImageBitmap | null;
  /** The share of its own width that is shown, so that all show the same field; 1: all of it. */
  shown: number;
  name: string;
  note: string;
  /** The path up to now, shares of the picture's width, right and down, the newest last. */
  path: readonly { x: number; y: number }[];
}
export interface Sheet {
  width: number;
  height: number;
}
export interface ComposeOptions {
  wipe: boolean;
  wipeAt: number;
  path: boolean;
}
/** Colours of the face that is on. */
export interface Inks {
  ground: string;
  ink: string;
  soft: string;
  path: string;
}

export function inksOf(element: Element): Inks {
  const style = getComputedStyle(element);
  const of = (name: string): string => style.getPropertyValue(name).trim();
  return { ground: of("--ground"), ink: of("--ink"), soft: of("--soft"), path: of("--cool") };
}

const GAP = 16;
const LABEL = 30;
const RATIO = 16 / 9;

/** Size of the sheet for `panes` takes at a width; even numbers, as encoders want them. */
export function sheetOf(panes: number, width: number, wipe: boolean): Sheet {
  const { cols, rows } = gridOf(wipe ? 1 : panes, width);
  const pane = (width - GAP * (cols - 1)) / cols;
  const height = rows * (pane / RATIO + LABEL) + (rows - 1) * GAP;
  return { width: 2 * Math.floor(width / 2), height: 2 * Math.floor(height / 2) };
}
/** Below this two beside each other are too small to be seen; then one stands above the other. */
const STACKED = 520;
function gridOf(panes: number, width: number): { cols: number; rows: number } {
  const cols = panes === 1 || width < STACKED ? 1 : 2;
  return { cols, rows: Math.ceil(panes / cols) };
}

type Canvas = CanvasRenderingContext2D | OffscreenCanvasRenderingContext2D;

export function compose(c: Canvas, sheet: Sheet, panes: readonly Pane[], options: ComposeOptions, inks: Inks): void {
  c.fillStyle = inks.ground;
  c.fillRect(0, 0, sheet.width, sheet.height);
  const [first, second] = panes;
  if (options.wipe && first !== undefined && second !== undefined) wiped(c, sheet, first, second, options, inks);
  else {
    const { cols } = gridOf(panes.length, sheet.width);
    const width = (sheet.width - GAP * (cols - 1)) / cols;
    const height = width / RATIO;
    panes.forEach((pane, i) => {
      const [x, y] = [(i % cols) * (width + GAP), Math.floor(i / cols) * (height + LABEL + GAP)];
      picture(c, pane, x, y, width, height, options.path, inks);
      label(c, pane, x, y + height, width, inks);
    });
  }
}

function wiped(c: Canvas, sheet: Sheet, left: Pane, right: Pane, options: ComposeOptions, inks: Inks): void {
  const height = sheet.width / RATIO;
  const at = sheet.width * options.wipeAt;
  picture(c, right, 0, 0, sheet.width, height, options.path, inks);
  c.save();
  c.beginPath();
  c.rect(0, 0, at, height);
  c.clip();
  picture(c, left, 0, 0, sheet.width, height, options.path, inks);
  c.restore();
  c.fillStyle = inks.ground;
  c.fillRect(at - 2, 0, 4, height);
  label(c, left, 0, height, sheet.width / 2, inks);
  label(c, right, sheet.width / 2, height, sheet.width / 2, inks);
}

function picture(c: Canvas, pane: Pane, x: number, y: number, width: number, height: number, path: boolean, inks: Inks): void {
  c.save();
  c.beginPath();
  c.rect(x, y, width, height);
  c.clip();
  c.fillStyle = "#000";
  c.fillRect(x, y, width, height);
  if (pane.frame !== null) {
    // As wide as the field asks; what is higher or lower than the pane is cut or left black.
    const source = { width: pane.frame.width * pane.shown, height: pane.frame.height * pane.shown };
    const scale = Math.min(width / source.width, height / source.height);
    const drawn = { width: pane.frame.width * scale, height: pane.frame.height * scale };
    c.drawImage(pane.frame, x + (width - drawn.width) / 2, y + (height - drawn.height) / 2, drawn.width, drawn.height);
    if (path) pathOver(c, pane, x + width / 2, y + height / 2, drawn.width, inks);
  }
  c.restore();
}

/** The way of the last moments, ending in the middle, with a halo so that it is seen on any picture. */
function pathOver(c: Canvas, { path }: Pane, x: number, y: number, scale: number, inks: Inks): void {
  const now = path.at(-1);
  if (now === undefined || path.length < 2) return;
  c.beginPath();
  for (const [i, p] of path.entries()) c[i === 0 ? "moveTo" : "lineTo"](x + (p.x - now.x) * scale, y + (p.y - now.y) * scale);
  c.lineJoin = "round";
  c.lineWidth = 5;
  c.strokeStyle = "#fff";
  c.stroke();
  c.lineWidth = 2;
  c.strokeStyle = inks.path;
  c.stroke();
}

function label(c: Canvas, { name, note }: Pane, x: number, y: number, width: number, inks: Inks): void {
  c.textBaseline = "middle";
  c.fillStyle = inks.ink;
  c.font = "600 15px 'Atkinson Hyperlegible Next Variable', 'Atkinson Hyperlegible Next', sans-serif";
  c.fillText(name, x, y + LABEL / 2, width);
  const used = Math.min(width, c.measureText(name).width) + 16;
  if (note === "" || used > width - 40) return;
  c.fillStyle = inks.soft;
  c.font = "13px 'Atkinson Hyperlegible Next Variable', 'Atkinson Hyperlegible Next', sans-serif";
  c.fillText(note, x + used, y + LABEL / 2, width - used);
}
