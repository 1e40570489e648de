import * as acts from "../core/diagnostics/act.js";
import type { TroubleFacts } from "../core/diagnostics/trouble-facts.js";
import * as troubles from "../core/diagnostics/trouble-text.js";
import * as wording from "../core/diagnostics/wording.js";
import { fileNames } from "./file-names.js";

/** The one sentence of a finding, without its place, with the workspace's files by their names. */
export const sentence = (finding: wording.Wordable): string => wording.sentence(finding, fileNames);

/** One line for a cause: general where it stands for many products, exact where it stands for one. */
export const heading = (finding: wording.Wordable, products: number): string =>
  wording.heading(finding, products, fileNames);

/** What is to be done, in a few words. */
export const actText = (act: acts.Act): string => acts.actText(act, fileNames);

/** What could not be worked out, and what to do, in one sentence. */
export const troubleText = (facts: TroubleFacts): string => troubles.troubleText(facts, fileNames);
