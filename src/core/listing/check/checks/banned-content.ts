import type { FieldCheck } from "../check-kind.js";

/** Texts have nothing in them that the channel bans: words, links, phone numbers, shouting, stuffing. */
export const bannedContent: FieldCheck = {
  name: "banned-content",
  check({ rule, value, setup, report }) {
    const texts = (Array.isArray(value) ? value : [value]).filter((one) => typeof one === "string");
    if (texts.length === 0 || rule.field.kind === "url") return;
    for (const banned of setup.definition.banned) {
      if (banned.field !== "*" && banned.field !== rule.field.code) continue;
      // Several search phrases count together: a word spread over them is repeated, too.
      for (const text of banned.kind === "repeats" ? [texts.join(" ")] : texts) {
        const found = banned.find(text);
        if (found === undefined) continue;
        const { severity, place, says } = banned;
        report("banned-content", { label: rule.field.label, found, says }, { field: rule, severity, place });
        break;
      }
    }
  },
};
