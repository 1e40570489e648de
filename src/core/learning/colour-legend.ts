/** What colours of a head mean, where a legend says so. */
import type { SheetHead } from "./head-of-sheet.js";
import { needOf, type NeedSaid } from "./need-words.js";
import { cellAt, type SheetPaper } from "./paper.js";

/** A legend stands in a sheet's first rows. */
const ROWS_LOOKED_AT = 40;

/** Colours of the head's cells that a legend explains: by a text in a coloured cell, or by one that names the colour. */
export function colourLegend(
  sheets: readonly SheetPaper[],
  head: SheetPaper,
  { named }: SheetHead,
): ReadonlyMap<string, NeedSaid> {
  const found = new Map<string, NeedSaid>();
  const used = new Set(
    (head.rows[named] ?? []).flatMap(({ fill, ink }) => [
      fill === "" ? "" : `fill ${fill}`,
      ink === "" ? "" : `ink ${ink}`,
    ]),
  );
  for (const sheet of sheets)
    sheet.rows.slice(0, ROWS_LOOKED_AT).forEach((row, at) => {
      if (sheet === head && at >= named) return;
      row.forEach((cell, column) => {
        const beside = cell.text.trim() === "" ? (row[column + 1]?.text ?? "") : cell.text;
        const need = needOf(beside);
        if (need !== undefined)
          for (const [what, colour] of [
            ["fill", cell.fill],
            ["ink", cell.ink],
          ] as const)
            if (colour !== "" && used.has(`${what} ${colour}`) && !found.has(`${what} ${colour}`))
              found.set(`${what} ${colour}`, need);
        for (const [colour, said] of namedColours(cell.text, used))
          if (!found.has(colour)) found.set(colour, said);
      });
    });
  // Where only the must has a colour, what has none may be left out.
  return found;
}

const hues: readonly (readonly [RegExp, (red: number, green: number, blue: number) => boolean])[] = [
  [/\b(?:red|rot|rote[rnm]?|rouge|roj[oa]s?)\b/iu, (r, g, b) => r > 140 && g < 110 && b < 110],
  [/\b(?:orange|naranja)\b/iu, (r, g, b) => r > 200 && g > 100 && g < 215 && b < 160],
  [/\b(?:yellow|gelb(?:e[rnm]?)?|jaune|amarill[oa]s?)\b/iu, (r, g, b) => r > 200 && g > 190 && b < 215],
  [/\b(?:green|grün(?:e[rnm]?)?|vert[es]?|verdes?)\b/iu, (r, g, b) => g > r && g > b],
  [/\b(?:blue|blau(?:e[rnm]?)?|bleue?s?|azul(?:es)?)\b/iu, (r, g, b) => b > r && b >= g],
  [
    /\b(?:gr[ea]y|grau(?:e[rnm]?)?|grise?s?|gris)\b/iu,
    (r, g, b) => Math.abs(r - g) < 14 && Math.abs(g - b) < 14,
  ],
];

/** `Columns in red letters are mandatory`: the head's colours of that hue. */
function namedColours(text: string, used: ReadonlySet<string>): readonly (readonly [string, NeedSaid])[] {
  const found: (readonly [string, NeedSaid])[] = [];
  for (const part of text.split(/[.;,\n]/)) {
    const need = needOf(part);
    const hue = hues.find(([name]) => name.test(part));
    if (need === undefined || hue === undefined) continue;
    for (const colour of used) {
      const [what = "", rgb = ""] = colour.split(" ");
      if (!/^[0-9A-F]{6}$/.test(rgb)) continue;
      const [red = 0, green = 0, blue = 0] = [0, 2, 4].map((at) =>
        Number.parseInt(rgb.slice(at, at + 2), 16),
      );
      const ofInk = /letter|font|schrift|text|police|letra|fuente/iu.test(part);
      const ofFill = /background|fill|hintergrund|fond|fondo|cells?|zellen|hinterlegt/iu.test(part);
      if ((ofInk && what === "fill") || (ofFill && !ofInk && what === "ink")) continue;
      if (hue[1](red, green, blue)) found.push([colour, need]);
    }
  }
  return found;
}

/** Colours of the cells above a column. */
export function headFill(sheet: SheetPaper, { named }: SheetHead, column: number): readonly string[] {
  const { fill, ink } = cellAt(sheet, named, column);
  return [fill === "" ? "" : `fill ${fill}`, ink === "" ? "" : `ink ${ink}`].filter(Boolean);
}
