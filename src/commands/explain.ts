import { command } from "./command.js";
import { refuseIdle } from "./options/refuse-idle.js";
import { flag } from "./options/option.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import type { Listing } from "../core/listing/listing.js";
import type { CommandFile } from "./command-file.js";
import {
  explainField,
  explainListing,
  plannedField,
  type ExplainedField,
} from "../flow/explain/explain-listing.js";
import { fieldJson, listingJson } from "../report/explain-json.js";
import { fieldLines, fieldTable, headLines } from "../report/explain-report.js";
import { possibleSources } from "../flow/explain/possible-sources.js";
import { withCatalogue } from "../flow/open-catalogue.js";
import { unknownSku } from "../flow/refusals.js";
import { loadChannel } from "../flow/run-channels.js";

/** `lexicant explain SKU CHANNEL [FIELD]`: how a listing, or one field of it, came about, and what is to be done. */
export const explain: CommandFile = command({
  args: [
    ["<sku>", "the product's SKU"],
    ["<channel>", "the channel"],
    ["[field]", "one of the channel's fields: each step to its value"],
  ],
  options: {
    all: flag("--all", "optional fields too that stay blank"),
  },
  examples: [
    ["explain BC-1301-WHITE-M merrowgate", "each field, and what is to be done"],
    ["explain BC-1301-WHITE-M merrowgate price", "one field, step by step"],
  ],
  async run({ given, args, options, io }) {
    const [sku = "", channel = "", code] = args;
    refuseIdle([
      [given.all && code !== undefined, "--all", "a whole listing, not with a field"],
      [given.all && options.json, "--all", "an answer for people: JSON has all"],
    ]);
    return withCatalogue(options.workspace, io, async ({ workspace, store, surroundings }) => {
      const known = await surroundings();
      const loaded = await loadChannel(workspace, store, channel, known);
      const explained = await explainListing(sku, loaded, store);
      if (explained === undefined) throw new Refusal([await unknownSku(sku, store)]);
      const { listing } = explained;
      if (listing === undefined) {
        if (options.json) io.out(listingJson(explained, []));
        else io.out(`${headLines(explained, io).join("\n")}\n`);
        return 0;
      }
      const explainOne = (planned: Listing["plan"]["fields"][number]): ExplainedField =>
        explainField(explained, listing, planned, known, store);
      if (code === undefined) {
        const fields = listing.plan.fields.map(explainOne);
        if (options.json) io.out(listingJson(explained, fields));
        else
          io.out(
            `${[...headLines(explained, io), "", ...fieldTable(fields, listing, explained.setup, given.all, io)].join("\n")}\n`,
          );
        return 0;
      }
      const field = explainOne(plannedField(listing, code, loaded.setup));
      const sources = new Map<string, readonly string[]>();
      if (field.value === undefined)
        for (const { name, value } of field.attributes)
          if (value === undefined) sources.set(name, await possibleSources(name, explained, workspace));
      if (options.json) io.out(fieldJson(explained, field, sources));
      else io.out(`${fieldLines(explained, field, sources, io).join("\n")}\n`);
      return 0;
    });
  },
});
