// The house's one-way streets: an import points to its own room, to core, or to a room on a lower floor.
import { relative, resolve, dirname, sep } from "node:path";

// From the ground up. Rooms of one floor do not know each other.
const house = [
  ["core", "io", "sandbox"],
  ["formats"],
  ["layouts", "store", "workspace", "exchange"],
  ["flow"],
  ["report"],
  ["commands"],
  ["cli"],
  // main.ts alone stands directly in src/
  [""],
];

// The floors inside core; a file directly in core/ lies below them all.
const core = [
  [""],
  ["values"],
  ["diagnostics"],
  ["goods"],
  ["records"],
  ["language"],
  ["catalogue"],
  ["channel"],
  ["placement"],
  ["listing"],
  ["gaps", "purpose"],
  ["learning"],
];

// What core may not touch: the world comes in as an argument.
const world =
  /^(node:|fs|path|http|https|net|os|child_process|better-sqlite3|commander|picocolors|papaparse|yaml|class-)/;

const roomsOf = (file, root) => {
  const parts = relative(root, file).split(sep).slice(0, -1);
  return { room: parts[0] ?? "", floor: parts[1] ?? "" };
};

const floorOf = (floors, room) => floors.findIndex((rooms) => rooms.includes(room));

const namesOf = (floors) => floors.flat().filter(Boolean).join(", ");

/** Why an import may not be; undefined where it may. */
const against = (from, to) => {
  if (from.room !== to.room) {
    const [here, there] = [floorOf(house, from.room), floorOf(house, to.room)];
    if (there < 0 || here < 0) return `a room that scripts/import-direction.js does not know`;
    return there < here ? undefined : `the house is, from the ground up: ${namesOf(house)}`;
  }
  if (from.room !== "core" || from.floor === to.floor) return undefined;
  const [here, there] = [floorOf(core, from.floor), floorOf(core, to.floor)];
  if (there < 0 || here < 0) return `a room of core that scripts/import-direction.js does not know`;
  return there < here ? undefined : `core is, from the ground up: ${namesOf(core)}`;
};

export const importDirection = {
  meta: {
    type: "problem",
    schema: [],
    docs: { description: "Imports point down: between the rooms of src/, and between those of core." },
  },
  create(context) {
    const root = resolve(context.cwd, "src");
    const here = roomsOf(context.filename, root);
    const check = (node) => {
      const from = node.source?.value;
      if (typeof from !== "string") return;
      if (!from.startsWith(".")) {
        if (here.room === "core" && world.test(from))
          context.report({
            node,
            message: `core takes and returns values: "${from}" belongs in a room around it, and its result comes in as an argument.`,
          });
        return;
      }
      const reason = against(here, roomsOf(resolve(dirname(context.filename), from), root));
      if (reason !== undefined)
        context.report({
          node,
          message: `"${from}" may not be imported here: ${reason}. Move the code, or pass the value in.`,
        });
    };
    return {
      ImportDeclaration: check,
      ExportNamedDeclaration: check,
      ExportAllDeclaration: check,
      ImportExpression: check,
      TSImportType: (node) => check({ ...node, source: node.source ?? node.argument?.literal }),
    };
  },
};
