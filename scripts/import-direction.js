// The house's one-way streets: what each folder of src/ may import from. Everything may import itself and core.
import { relative, resolve, dirname, sep } from "node:path";

const allowed = {
  core: [],
  formats: ["core"],
  store: ["core"],
  report: ["core"],
  layouts: ["core", "formats"],
  workspace: ["core", "formats"],
  exchange: ["core", "formats"],
  commands: ["core", "formats", "layouts", "store", "workspace", "exchange", "report"],
  // main.ts, cli.ts and their kin, directly in src/
  "": ["core", "commands", "report", "workspace"],
};

// What core may not touch: the world comes in as an argument.
const world =
  /^(node:|fs|path|http|https|net|os|child_process|better-sqlite3|commander|picocolors|papaparse|yaml|class-)/;

const roomOf = (file, root) => {
  const [first = "", ...rest] = relative(root, file).split(sep);
  return rest.length === 0 ? "" : first;
};

export const importDirection = {
  meta: {
    type: "problem",
    schema: [],
    docs: { description: "Imports point one way: commands, then the rooms around core, then core." },
  },
  create(context) {
    const root = resolve(context.cwd, "src");
    const room = roomOf(context.filename, root);
    const check = (node) => {
      const from = node.source?.value;
      if (typeof from !== "string") return;
      if (!from.startsWith(".")) {
        if (room === "core" && world.test(from))
          context.report({
            node,
            message: `core takes and returns values: "${from}" belongs in a room around it, and its result comes in as an argument.`,
          });
        return;
      }
      const target = roomOf(resolve(dirname(context.filename), from), root);
      if (target === room || allowed[room]?.includes(target)) return;
      const ways = (allowed[room] ?? []).map((name) => `src/${name}`).join(", ") || "nothing outside itself";
      context.report({
        node,
        message: `src/${room || "*.ts"} may import from ${ways}; "${from}" is in src/${target || "*.ts"}. Move the code, or pass the value in.`,
      });
    };
    return {
      ImportDeclaration: check,
      ExportNamedDeclaration: check,
      ExportAllDeclaration: check,
      ImportExpression: check,
    };
  },
};
