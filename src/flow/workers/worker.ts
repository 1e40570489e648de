import { parentPort, workerData } from "node:worker_threads";
import { Refusal } from "../../core/diagnostics/refusal.js";
import { openStore } from "../../store/open-store.js";
import type { FamilyRange } from "../../store/store.js";
import { lookUps } from "../../workspace/look-up-files.js";
import { openWorkspace } from "../../workspace/workspace.js";
import type { BuildWork } from "../build/build-parts.js";
import type { CheckWork } from "../check/check-parts.js";
import type { Recipe, Said } from "../parts/crew.js";
import type { PartWork } from "../parts/in-parts.js";
import { loadChannels } from "../run-channels.js";

const CACHE_MEGABYTES = 8;

/** The recipe's work, on a catalogue that this thread opened for itself. */
const begun = async ({ root, today, channels: names, work, wishes }: Recipe) => {
  const workspace = await openWorkspace(root);
  const store = await openStore({
    path: workspace.storePath,
    shownPath: ".lexicant/store.db",
    layers: workspace.layers,
    onlyReads: true,
    cacheMegabytes: CACHE_MEGABYTES,
  });
  const seen = await store.hold();
  const surroundings = { today: { kind: "date", iso: today } as const, ...(await lookUps(root)) };
  const channels = await loadChannels(workspace, store, names, surroundings);
  const part: PartWork<unknown> =
    work === "build"
      ? await (
          await import("../build/build-parts.js")
        ).buildParts({ workspace, store }, channels, wishes as BuildWork)
      : await (await import("../check/check-parts.js")).checkParts({ store }, channels, wishes as CheckWork);
  return { seen, store, part };
};

/** The memory of a piece that is handed over rather than copied: of nothing else is there much. */
const memoryOf = (value: unknown, found: ArrayBuffer[] = []): ArrayBuffer[] => {
  if (value instanceof Uint8Array || value instanceof Float64Array) {
    if (value.buffer instanceof ArrayBuffer) found.push(value.buffer);
  } else if (Array.isArray(value) && typeof value[0] === "object")
    for (const one of value) memoryOf(one, found);
  else if (typeof value === "object" && value !== null && "pieces" in value) memoryOf(value.pieces, found);
  else if (typeof value === "object" && value !== null && "bytes" in value) memoryOf(value.bytes, found);
  return found;
};

const port = parentPort;
const say = (said: Said): void => port?.postMessage(said, said.said === "made" ? memoryOf(said.made) : []);

const cannot = (error: unknown): void => {
  if (error instanceof Refusal) say({ said: "refused", findings: error.findings, exit: error.exit });
  else
    say({ said: "failed", reason: error instanceof Error ? (error.stack ?? error.message) : String(error) });
};

try {
  const { seen, store, part } = await begun(workerData as Recipe);
  port?.on("message", (asked: FamilyRange | "end") => {
    if (asked === "end") {
      void store.close().finally(() => port.close());
      return;
    }
    part(asked).then((made) => say({ said: "made", made }), cannot);
  });
  say({ said: "ready", seen });
} catch (error) {
  cannot(error);
}
