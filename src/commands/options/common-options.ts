/** Options of every command, with their help. */
export const commonOptions: readonly (readonly [flags: string, help: string])[] = [
  ["-C, --workspace <dir>", "the workspace's folder (else LEXICANT_WORKSPACE, or the one around this)"],
  ["--json", "answer in JSON Lines, for programs (docs/json.md)"],
  ["--quiet", "no messages beside the result; errors are told"],
  ["--color <when>", "auto, always or never (auto)"],
  ["--no-input", "ask nothing, whoever is there"],
  ["--no-pager", "show long answers at once"],
];
