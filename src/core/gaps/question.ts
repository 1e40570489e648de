/** What a column of a gap sheet asks for, as a key that survives a spreadsheet. */
import { assertNever } from "../assert-never.js";

/** Where an answer goes: what a column of a gap sheet asks for. */
export type Target =
  /** An attribute of the catalogue, for all channels. */
  | { readonly kind: "attribute"; readonly attribute: string }
  /** One field of one channel, for products that no attribute could give it to. */
  | { readonly kind: "field"; readonly channel: string; readonly field: string }
  /** The channel's value for a term of ours: a row of its lexicon. */
  | { readonly kind: "term"; readonly channel: string; readonly field: string };

/** A target as a key that a spreadsheet keeps. */
export function targetKey(target: Target): string {
  switch (target.kind) {
    case "attribute":
      return `attribute ${target.attribute}`;
    case "field":
    case "term":
      return `${target.kind} ${target.channel} ${target.field}`;
    default:
      return assertNever(target);
  }
}

/** Reads what {@link targetKey} wrote; undefined for any other text. */
export function readTarget(text: string): Target | undefined {
  const [kind, first, field] = text.split(" ");
  if (first === undefined || first === "") return undefined;
  if (kind === "attribute") return { kind, attribute: first };
  if ((kind === "field" || kind === "term") && field !== undefined && field !== "")
    return { kind, channel: first, field };
  return undefined;
}

/** A field of a channel that waits for an answer. */
export interface WaitingField {
  readonly channel: string;
  readonly field: string;
}

/** `channel/field`. */
export const askerText = ({ channel, field }: WaitingField): string => `${channel}/${field}`;

/** Reads what {@link askerText} wrote. */
export function readAsker(text: string): WaitingField | undefined {
  const at = text.indexOf("/");
  return at <= 0 ? undefined : { channel: text.slice(0, at), field: text.slice(at + 1) };
}

/** An answer that we would give, for a person to accept. */
export interface AnswerProposal {
  readonly value: string;
  readonly reason: string;
}
