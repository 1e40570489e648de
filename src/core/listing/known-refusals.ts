/** What a channel refused before, as patterns of its words. */
import { fold } from "../values/text.js";

/** What a channel refused once, and what a person says of it. */
export interface KnownRefusal {
  /** The channel's code; "" for any. */
  readonly code: string;
  /** The channel's words; a star stands for what differs from row to row. */
  readonly message: string;
  /** The channel's field, by code; "" where it names none. */
  readonly field: string;
  /** What brings it about when the field holds it; "" where that is not known. */
  readonly contains: string;
  /** Our words for it, and what is to be done; "" as long as nobody has said it. */
  readonly means: string;
  readonly act: string;
}

const STAR = "*";

const quotedPart = /["“”„«»]([^"“”„«»]+)["“”„«»]|'([^']+)'/g;

/** A channel's message without what differs from row to row: what it quotes, numbers, and our own references. */
export function messagePattern(message: string, reference: string): string {
  return (reference === "" ? message : message.replaceAll(reference, STAR))
    .replace(quotedPart, (whole) => `${whole[0] ?? ""}${STAR}${whole.at(-1) ?? ""}`)
    .replace(/\d+(?:[.,]\d+)*/g, STAR);
}

/** Whether a message is of a pattern: piece by piece, so that no pattern can take long. */
function isOf(message: string, pattern: string): boolean {
  const pieces = pattern.split(STAR).map(fold);
  const text = fold(message);
  const last = pieces.at(-1) ?? "";
  let from = 0;
  for (const [at, piece] of pieces.entries()) {
    const found = text.indexOf(piece, from);
    if (found < 0 || (at === 0 && found > 0)) return false;
    from = found + piece.length;
  }
  return pieces.length > 1 ? text.endsWith(last) : from === text.length;
}

/** The known refusal that a channel's words are of. */
export function refusalOf(
  known: readonly KnownRefusal[],
  { code, message }: { readonly code: string; readonly message: string },
): KnownRefusal | undefined {
  return known.find((one) => (one.code === "" || one.code === code) && isOf(message, one.message));
}

/** What a channel quotes of a value: where that is a piece of it, the piece is what it minds. */
export function mindedPiece(message: string, value: string): string {
  for (const [, first, second] of message.matchAll(quotedPart)) {
    const piece = (first ?? second ?? "").trim();
    if (piece.length >= 2 && fold(piece) !== fold(value) && fold(value).includes(fold(piece))) return piece;
  }
  return "";
}
