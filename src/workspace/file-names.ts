import type { FileNames } from "../core/diagnostics/file-names.js";

/** Where the files of a workspace lie, as messages name them. */
export const fileNames: FileNames = {
  manifest: "lexicant.yaml",
  policy: "channel.yaml",
  policyOf: (channel) => `channels/${channel}/channel.yaml`,
  fillsOf: (channel) => `channels/${channel}/fills.yaml`,
  lexiconOf: (channel) => `channels/${channel}/lexicon.csv`,
  source: (name) => `sources/${name}.yaml`,
  table: (name) => `tables/${name}.csv`,
  rates: "tables/rates.csv",
};
