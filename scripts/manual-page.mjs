// Writes the manual page from what the commands say of themselves.

/** A text as roff takes it: no line begins a request, no dash is a hyphen that cannot be copied. */
const roff = (text) =>
  text
    .replaceAll("\\", "\\e")
    .replaceAll("-", "\\-")
    .replace(/^(['.])/gm, "\\&$1")
    .replace(
      /[^\n\x20-\x7e]/g,
      (sign) => `\\[u${sign.codePointAt(0).toString(16).toUpperCase().padStart(4, "0")}]`,
    );

const tagged = (tag, text) => `.TP\n\\fB${roff(tag)}\\fR\n${roff(text)}`;

const commandPart = async (entry) => {
  const { args, options, examples } = await entry.load();
  return [
    `.SS ${roff(`${entry.name} ${entry.args}`.trim())}`,
    roff(`${entry.summary[0].toUpperCase()}${entry.summary.slice(1)}.`),
    ...args.map(([syntax, help]) => tagged(syntax, help)),
    ...Object.values(options).map(({ flags, help }) => tagged(flags, help)),
    ".P",
    "Examples:",
    ...examples.map(([line, does]) => `.P\n.RS\n\\fBlexicant ${roff(line)}\\fR\n.br\n${roff(does)}\n.RE`),
  ].join("\n");
};

/** The manual, in the order of the work. */
export const manualPage = async ({ commands, common, variables, exits, version }) => {
  const parts = [];
  let group = "";
  for (const entry of commands) {
    if (entry.group !== group) parts.push(`.SH ${roff(entry.group.toUpperCase())}`);
    group = entry.group;
    parts.push(await commandPart(entry));
  }
  return `${[
    `.TH LEXICANT 1 "" "lexicant ${version}" "User Commands"`,
    ".SH NAME",
    "lexicant \\- make each sales channel's listing files from one master catalogue",
    ".SH SYNOPSIS",
    "\\fBlexicant\\fR \\fICOMMAND\\fR [\\fIarguments\\fR] [\\fIoptions\\fR]",
    ".SH OPTIONS OF EVERY COMMAND",
    ...common.map(([flags, help]) => tagged(flags, help)),
    ...parts,
    ".SH EXIT STATUS",
    ...exits.map(([code, says]) => tagged(String(code), says)),
    ".SH ENVIRONMENT",
    ...Object.entries(variables).map(([name, says]) => tagged(name, says)),
  ].join("\n")}\n`;
};
