// Every word the interface can say, out of the source: text between tags, attributes people read, strings and templates with more than one word.
// So that a room can be read through from top to bottom, and words that are none of the trade's are found.

import { readdirSync, readFileSync } from "node:fs";
import path from "node:path";
import ts from "typescript";

export interface Sentence {
  file: string;
  line: number;
  text: string;
}

/** Where each room's words live: its pages, and what of the core speaks for it. */
export const ROOMS: Readonly<Record<string, readonly string[]>> = {
  bench: ["apps/web/src/rooms/bench", "apps/web/src/app"],
  kit: ["apps/web/src/rooms/kit", "packages/contract/src/kit.ts", "packages/contract/src/items.ts", "packages/core/src/kit"],
  plan: ["apps/web/src/rooms/plan", "apps/web/src/shared/day", "packages/core/src/planning"],
  roll: ["apps/web/src/rooms/roll", "packages/core/src/notebook", "apps/web/src/shared/cautions"],
  runs: [
    "apps/web/src/rooms/runs",
    "apps/web/src/shared/clips",
    "apps/web/src/record",
    "packages/core/src/runs",
    "packages/core/src/clips",
  ],
  heat: [
    "apps/web/src/rooms/heat",
    "apps/web/src/rulers",
    "packages/core/src/reading",
    "packages/core/src/cells",
    "packages/core/src/heat",
  ],
  limits: ["apps/web/src/rooms/limits", "packages/core/src/limits", "apps/server/src/rooms/limits/service.ts"],
  walk: ["apps/web/src/rooms/walk", "packages/core/src/walks", "apps/server/src/media/video/words.ts"],
  hold: ["apps/web/src/rooms/hold", "packages/core/src/holds"],
  data: ["apps/web/src/rooms/data", "apps/server/src/rooms/data"],
};

/** Attributes and calls whose strings nobody reads. */
const UNREAD = new Set([
  "className",
  "id",
  "d",
  "transform",
  "style",
  "key",
  "type",
  "role",
  "viewBox",
  "href",
  "to",
  "path",
  "list",
  "htmlFor",
]);

export const sentencesOf = (root: string, places: readonly string[]): Sentence[] =>
  places
    .flatMap((place) => filesIn(path.join(root, place)))
    .flatMap((file) => sentencesIn(path.relative(root, file), readFileSync(file, "utf8")));

function filesIn(place: string): string[] {
  if (/\.tsx?$/.test(place)) return [place];
  return readdirSync(place, { withFileTypes: true })
    .filter((e) => e.name !== "testing")
    .flatMap((e) => (e.isDirectory() ? filesIn(path.join(place, e.name)) : [path.join(place, e.name)]))
    .filter((file) => /\.tsx?$/.test(file) && !/\.test\.tsx?$/.test(file))
    .sort();
}

export function sentencesIn(file: string, source: string): Sentence[] {
  const tree = ts.createSourceFile(file, source, ts.ScriptTarget.Latest, true, file.endsWith("x") ? ts.ScriptKind.TSX : ts.ScriptKind.TS);
  const found: Sentence[] = [];
  const take = (node: ts.Node, text: string): void => {
    const words = text.replace(/\s+/g, " ").trim();
    if (/[a-z]{2}/i.test(words)) found.push({ file, line: tree.getLineAndCharacterOfPosition(node.getStart()).line + 1, text: words });
  };
  const visit = (node: ts.Node): void => {
    if (isUnread(node)) return;
    if (ts.isJsxText(node)) take(node, node.text);
    else if (ts.isStringLiteral(node) || ts.isNoSubstitutionTemplateLiteral(node)) {
      if (/\S\s\S/.test(node.text) || ts.isJsxAttribute(node.parent)) take(node, node.text);
    } else if (ts.isTemplateExpression(node)) {
      take(node, [node.head.text, ...node.templateSpans.map((s) => s.literal.text)].join("…"));
      for (const span of node.templateSpans) visit(span.expression);
      return;
    }
    ts.forEachChild(node, visit);
  };
  visit(tree);
  return found;
}

/** Imports, types, errors for developers, class names, keys of objects. */
function isUnread(node: ts.Node): boolean {
  if (ts.isImportDeclaration(node) || ts.isExportDeclaration(node) || ts.isTypeNode(node)) return true;
  if (ts.isNewExpression(node)) return /^(RangeError|TypeError|Error|RegExp)$/.test(node.expression.getText());
  if (ts.isJsxAttribute(node)) return UNREAD.has(node.name.getText());
  if (ts.isBinaryExpression(node) && /^[=!]==$/.test(node.operatorToken.getText())) return true;
  return (
    ts.isCallExpression(node) && /(^|\.)(includes|getItem|setItem|querySelector(All)?|log\.\w+|raw|import)$/.test(node.expression.getText())
  );
}
