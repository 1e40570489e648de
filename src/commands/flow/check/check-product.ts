import { textOf } from "../../../core/catalogue/product.js";
import type { Diagnostic } from "../../../core/diagnostics/diagnostic.js";
import { noteText } from "../../../core/diagnostics/wording.js";
import { Refusal } from "../../../core/diagnostics/refusal.js";
import { isHeld, productOf } from "../../../core/listing/listing.js";
import { pipelineFor } from "../../../core/listing/pipeline.js";
import { findingLines } from "../../../report/findings.js";
import type { Io } from "../../../report/io.js";
import { findingJson, jsonLine } from "../../../report/json.js";
import { styleFor } from "../../../report/style.js";
import type { Store } from "../../../store/store.js";
import type { WorkspaceChannel } from "../../../workspace/channel-files.js";
import type { ExitCode } from "../../command-file.js";
import { isFindingMeant, type Narrowing } from "./narrowing.js";
import { unknownSku } from "../refusals.js";
import { provenanceIn } from "../run-channels.js";

const states = { ready: "ready", held: "held", unplaced: "held", "left-out": "left out" } as const;

/** Where one product stands on each channel, with every reason. */
export const checkProduct = async (
  sku: string,
  channels: readonly WorkspaceChannel[],
  store: Store,
  narrowing: Narrowing,
  json: boolean,
  io: Io,
): Promise<ExitCode> => {
  const family = await store.familyOf(sku);
  const product = family?.members.find((member) => member.sku === sku);
  if (family === undefined || product === undefined) throw new Refusal([await unknownSku(sku, store)]);
  const provenance = await provenanceIn(store);
  const style = styleFor(io);
  let isAnyHeld = false;
  if (!json) io.out(`${style.bold(sku)}  ${textOf(product, "name") ?? ""}\n`);
  for (const { setup } of channels) {
    const outcomes = pipelineFor(setup, provenance)(family);
    const own = outcomes.find((one) => productOf(one).sku === sku);
    if (own === undefined) continue;
    isAnyHeld ||= isHeld(own);
    const findings = own.findings.filter(isFindingMeant(narrowing));
    if (json) {
      for (const finding of findings) io.out(findingJson(finding));
      io.out(jsonLine({ type: "product-state", sku, channel: setup.channel, state: states[own.kind] }));
      continue;
    }
    const state =
      own.kind === "ready"
        ? style.good(states.ready)
        : style.severity(isHeld(own) ? "error" : "advice", states[own.kind]);
    io.out(`\n${style.bold(`${setup.definition.label} ${setup.definition.version}`)}: ${state}\n`);
    for (const finding of findings) io.out(`${reasonLines(finding, io).join("\n")}\n`);
  }
  return isAnyHeld ? 1 : 0;
};

/** The product and the channel stand above: a reason names its place and what asks for it. */
const reasonLines = (finding: Diagnostic, io: Io): readonly string[] => {
  const notes = (finding.notes ?? []).map((note) => `         ${styleFor(io).dim(noteText(note))}`);
  return [...findingLines(finding, io, { isAboutNamed: true }), ...notes];
};
