import type { CommandFile } from "./command-file.js";

/** A command's line in the help, and its file, loaded only when the command is called. */
export interface CommandEntry {
  readonly name: string;
  readonly args: string;
  readonly summary: string;
  load(): Promise<CommandFile>;
}

/** Every command, in the order of the work. */
export const commands: readonly CommandEntry[] = [
  {
    name: "init",
    args: "[DIR]",
    summary: "begin a workspace for a shop",
    load: async () => (await import("./init.js")).init,
  },
  {
    name: "demo",
    args: "[DIR]",
    summary: "begin with Brindlecote, a made-up garden and beekeeping shop",
    load: async () => (await import("./demo.js")).demo,
  },
  {
    name: "import",
    args: "FILE...",
    summary: "read files into the catalogue",
    load: async () => (await import("./import.js")).importFile,
  },
  {
    name: "export",
    args: "FILE",
    summary: "write products as a sheet that imports back",
    load: async () => (await import("./export.js")).exportSheet,
  },
  {
    name: "set",
    args: "SKU attribute=value...",
    summary: "change single values by hand",
    load: async () => (await import("./set.js")).set,
  },
  {
    name: "revert",
    args: "CHANNEL [SKU...]",
    summary: "take back a channel's own words, so that the catalogue's show again",
    load: async () => (await import("./revert.js")).revert,
  },
  {
    name: "undo",
    args: "[REVISION]",
    summary: "take back an import or an edit",
    load: async () => (await import("./undo.js")).undo,
  },
  {
    name: "remove",
    args: "SKU...",
    summary: "take products out of the catalogue that came by mistake",
    load: async () => (await import("./remove.js")).remove,
  },
  {
    name: "sources",
    args: "[show NAME]",
    summary: "list how files are read, from which files, and when last",
    load: async () => (await import("./sources.js")).sources,
  },
  {
    name: "history",
    args: "",
    summary: "list all imports, edits and undos",
    load: async () => (await import("./history.js")).history,
  },
  {
    name: "list",
    args: "",
    summary: "list the catalogue's products",
    load: async () => (await import("./list.js")).list,
  },
  {
    name: "show",
    args: "SKU",
    summary: "show a product, and where each of its values came from",
    load: async () => (await import("./show.js")).show,
  },
  {
    name: "channels",
    args: "[add NAME...]",
    summary: "list the channels that are known, or take some into use",
    load: async () => (await import("./channels.js")).channels,
  },
  {
    name: "categories",
    args: "CHANNEL [WORDS...]",
    summary: "look for a channel's categories",
    load: async () => (await import("./categories.js")).categories,
  },
  {
    name: "fields",
    args: "CHANNEL CATEGORY",
    summary: "say what a category demands, and why",
    load: async () => (await import("./fields.js")).fields,
  },
  {
    name: "values",
    args: "CHANNEL FIELD [WORDS...]",
    summary: "list the values that a field permits",
    load: async () => (await import("./values.js")).values,
  },
  {
    name: "place",
    args: "CHANNEL",
    summary: "find the channel's category for each of ours",
    load: async () => (await import("./place.js")).place,
  },
  {
    name: "fills",
    args: "CHANNEL [CATEGORY]",
    summary: "show what fills each field, from where, and how many come out blank",
    load: async () => (await import("./fills.js")).fills,
  },
  {
    name: "lexicon",
    args: "CHANNEL",
    summary: "find the channel's value for each of our terms",
    load: async () => (await import("./lexicon.js")).lexicon,
  },
  {
    name: "functions",
    args: "[WORDS...]",
    summary: "look for a function of the expression language",
    load: async () => (await import("./functions.js")).functions,
  },
  {
    name: "try",
    args: "EXPRESSION",
    summary: "work an expression out on real products, step by step",
    load: async () => (await import("./try.js")).tryExpression,
  },
  {
    name: "check",
    args: "[CHANNEL...]",
    summary: "say what is missing or wrong, before a channel does",
    load: async () => (await import("./check.js")).check,
  },
  {
    name: "readiness",
    args: "[CHANNEL...]",
    summary: "say how much of what is demanded is there, and what would help most",
    load: async () => (await import("./readiness.js")).readiness,
  },
  {
    name: "explain",
    args: "SKU CHANNEL [FIELD]",
    summary: "show how a listing's values came about, and what is to be done for it",
    load: async () => (await import("./explain.js")).explain,
  },
  {
    name: "gaps",
    args: "CHANNEL...",
    summary: "write a sheet that asks for just what is missing",
    load: async () => (await import("./gaps.js")).gaps,
  },
  {
    name: "build",
    args: "[CHANNEL...]",
    summary: "write the channels' files from all that is ready",
    load: async () => (await import("./build.js")).build,
  },
  {
    name: "diff",
    args: "CHANNEL",
    summary: "show what a full build would change against what was sent or built",
    load: async () => (await import("./diff.js")).diff,
  },
  {
    name: "ledger",
    args: "CHANNEL [SKU]",
    summary: "show what a channel was sent",
    load: async () => (await import("./ledger.js")).ledger,
  },
  {
    name: "sent",
    args: "CHANNEL [FILE]",
    summary: "note that the last build was sent, so that the next is held against it",
    load: async () => (await import("./sent.js")).sent,
  },
];
