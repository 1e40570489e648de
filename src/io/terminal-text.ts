/** Keeps what a data file says from moving a terminal. */
import type { Io } from "./io.js";

// What styles of ours are made of, and a new page of a watched check; all else that moves a terminal came from data.
// eslint-disable-next-line no-control-regex -- they are what it is about
const styles = /^\u001b\[(?:0|1|2|22|31|32|33|36|39)m/;
// eslint-disable-next-line no-control-regex -- they are what it is about
const page = /^\u001b\[(?:2J|H)/;
const controls =
  // eslint-disable-next-line no-control-regex -- they are what it is about
  /\r(?!\n)|[\u0000-\u0008\u000b\u000c\u000e-\u001f\u007f-\u009f\u061c\u200e\u200f\u202a-\u202e\u2066-\u2069]/g;

function picture(sign: string): string {
  const code = sign.charCodeAt(0);
  if (code < 0x20) return String.fromCharCode(0x2400 + code);
  if (code === 0x7f) return "\u2421";
  // What begins with escape in seven bits.
  return code < 0xa0 ? `\u241b${String.fromCharCode(code - 0x40)}` : "\ufffd";
}

/** A text without anything that a terminal would obey but the styles of our own: control characters show as their pictures. */
export function terminalText(
  text: string,
  { colors, isTerminal }: Pick<Io, "colors" | "isTerminal">,
): string {
  return text.replace(controls, (sign, at: number) => {
    if (sign !== "\u001b") return picture(sign);
    const rest = text.slice(at, at + 6);
    return (colors && styles.test(rest)) || (isTerminal && page.test(rest)) ? sign : picture(sign);
  });
}

// eslint-disable-next-line no-control-regex -- they are what it is about
const ownStyles = /\u001b\[(?:0|1|2|22|31|32|33|36|39)m/g;

/** A message as its reader may have it: a file gets no colours, whatever the terminal beside it does. */
const errorText = (text: string, io: Io): string =>
  terminalText(io.errorColors ? text : text.replace(ownStyles, ""), { ...io, colors: io.errorColors });

/** The same world, to which nothing is said that a data file could have written to move the terminal. */
export const guardedIo = (io: Io): Io => ({
  ...io,
  out: (text) => io.out(terminalText(text, io)),
  err: (text) => io.err(errorText(text, io)),
  ask: (question) => io.ask(errorText(question, io)),
  page: io.page === undefined ? undefined : (text) => io.page?.(terminalText(text, io)),
});
