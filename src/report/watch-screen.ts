import type { WatchScreen } from "../flow/check/watch.js";
import type { Io } from "../io/io.js";
import { findingLines } from "./findings.js";
import { styleFor } from "./style.js";

/** Shows each check on a screen of its own, with the time that it took. */
export function watchScreen(io: Io): WatchScreen {
  let begun = 0;
  return {
    begin() {
      begun = io.now().getTime();
      if (io.isTerminal) io.out("\u001b[2J\u001b[H");
    },
    refused(refusal) {
      for (const finding of refusal.findings) io.out(`${findingLines(finding, io).join("\n")}\n`);
    },
    end() {
      const seconds = ((io.now().getTime() - begun) / 1000).toFixed(1);
      io.out(`${styleFor(io).dim(`Checked in ${seconds} s. Waiting for changes; Ctrl+C ends.`)}\n`);
    },
    arrived(file) {
      io.out(`${file} changed: take it in with "lexicant import ${file}".\n`);
    },
  };
}
