import { isList } from "../../../values/value.js";
import type { FieldCheck } from "../check-kind.js";

/** Texts have nothing in them that the channel bans: words, links, phone numbers, shouting, stuffing. */
export const bannedContent: FieldCheck = {
  name: "banned-content",
  for(rule, { definition }) {
    const banned = definition.banned.filter(({ field }) => field === "*" || field === rule.field.code);
    if (banned.length === 0 || rule.field.kind === "url") return undefined;
    return (value, report) => {
      const texts = (isList(value) ? value : [value]).filter((one) => typeof one === "string");
      if (texts.length === 0) return;
      for (const { kind, find, severity, place, says } of banned)
        // Several search phrases count together: a word spread over them is repeated, too.
        for (const text of kind === "repeats" ? [texts.join(" ")] : texts) {
          const found = find(text);
          if (found === undefined) continue;
          report(
            "banned-content",
            { label: rule.field.label, found, says },
            { field: rule, severity, place },
          );
          break;
        }
    };
  },
};
