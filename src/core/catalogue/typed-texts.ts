/** Canonical texts as values, each different text typed once. */
import { MemoRoom, TextMemo } from "../text-memo.js";
import type { AttributeKind } from "../values/attribute-kind.js";
import { kindFacts } from "../values/kinds.js";
import { readValue } from "../values/read.js";
import type { MaybeBlank } from "../values/value.js";
import { itemsOf } from "./list-text.js";

/** A text that does not read as its kind, as older stores kept them, is no value: no channel may ever be given it. */
function typed({ kind, list }: AttributeKind, text: string): MaybeBlank {
  const one = (part: string): MaybeBlank => {
    if (kindFacts[kind].isStoredAsItIs) return part;
    const reading = readValue(kind, part);
    return "value" in reading ? reading.value : undefined;
  };
  if (!list) return one(text);
  const values = itemsOf(text).flatMap((item) => one(item) ?? []);
  return values.length === 0 ? undefined : values;
}

const isAsItStands = ({ kind, list }: AttributeKind): boolean => !list && kindFacts[kind].isStoredAsItIs;

/** Types a catalogue's canonical texts by the slots of their attributes; a text that repeats is typed once. */
export type TypeText = (slot: number, text: string) => MaybeBlank;

const ROOM = 4_000_000;
const TEXT: AttributeKind = { kind: "text", list: false };

/** Begins to type texts, by the kinds of their slots. */
export function typedTexts(kinds: readonly AttributeKind[]): TypeText {
  const room = new MemoRoom(ROOM);
  const memos: TextMemo<{ readonly value: MaybeBlank }>[] = [];
  return (slot, text) => {
    const kind = kinds[slot] ?? TEXT;
    if (isAsItStands(kind)) return text;
    const memo = (memos[slot] ??= new TextMemo(room));
    const known = memo.get(text);
    if (known !== undefined) return known.value;
    const value = typed(kind, text);
    memo.set(text, { value });
    return value;
  };
}
