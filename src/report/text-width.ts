/** How wide a text is on a terminal, and how it is broken and cut. */
import { characters } from "../core/values/characters.js";

const wide =
  /\p{Emoji_Presentation}|[\u1100-\u115f\u2e80-\ua4cf\uac00-\ud7a3\uf900-\ufaff\ufe30-\ufe6f\uff00-\uff60\uffe0-\uffe6]/u;
const ascii = /^[\u0020-\u007e]*$/;

/** Columns that a text takes on a terminal. */
export function textWidth(text: string): number {
  return ascii.test(text)
    ? text.length
    : characters(text).reduce((sum, character) => sum + (wide.test(character) ? 2 : 1), 0);
}

/** The text in one line of at most so many columns, with an ellipsis where something is cut. */
export function fitWidth(text: string, width: number): string {
  const line = text.replace(/(?<=\S)\s+/g, " ");
  if (textWidth(line) <= width) return line;
  if (ascii.test(line)) return `${line.slice(0, Math.max(0, width - 1)).trimEnd()}…`;
  let [fitted, used] = ["", 0];
  for (const character of characters(line)) {
    const own = textWidth(character);
    if (used + own > width - 1) break;
    fitted += character;
    used += own;
  }
  return `${fitted.trimEnd()}…`;
}

/** Breaks a text into lines of at most so many columns, at spaces; line ends in it are kept. */
export function wrapText(text: string, width: number): readonly string[] {
  return text.split("\n").flatMap((paragraph) => {
    const lines: string[] = [];
    let line = "";
    for (const word of paragraph.split(" ")) {
      const longer = line === "" ? word : `${line} ${word}`;
      if (textWidth(longer) <= width || line === "") line = longer;
      else {
        lines.push(line);
        line = word;
      }
    }
    return [...lines, line];
  });
}
