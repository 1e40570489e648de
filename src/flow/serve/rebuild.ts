import { spawn } from "node:child_process";
import { resolve } from "node:path";
import { fileURLToPath } from "node:url";
import type { Io } from "../../io/io.js";
import type { Workspace } from "../../workspace/workspace.js";

const program = fileURLToPath(new URL("../../main.js", import.meta.url));

/** What came of a build that ran beside. */
export type Rebuilt =
  | {
      readonly kind: "built";
      readonly listings: number;
      readonly folder: string;
      readonly files: readonly string[];
    }
  | { readonly kind: "failed"; readonly reason: string };

const MOST_SAID = 2000;

/** Builds a channel's whole file in a process of its own, so that whoever is served meanwhile does not wait. */
export const rebuild = ({ root }: Workspace, channel: string, { environment }: Io): Promise<Rebuilt> =>
  new Promise((done) => {
    const child = spawn(process.execPath, [program, "-C", root, "build", channel, "--json"], {
      cwd: root,
      env: { ...environment, NO_COLOR: "1" },
      stdio: ["ignore", "pipe", "pipe"],
    });
    let [out, err] = ["", ""];
    child.stdout.on("data", (chunk: Buffer) => (out += chunk.toString()));
    child.stderr.on("data", (chunk: Buffer) => (err = (err + chunk.toString()).slice(-MOST_SAID)));
    child.on("error", (error) => done({ kind: "failed", reason: error.message }));
    child.on("close", (exit) => {
      const failed = (): void =>
        done({
          kind: "failed",
          reason: err.replace(/\s+/g, " ").trim() || `the build ended with ${exit ?? "nothing"}`,
        });
      if (exit !== 0 && exit !== 1) {
        failed();
        return;
      }
      try {
        const line = out.split("\n").find((one) => one.startsWith('{"type":"build"')) ?? "";
        const { written, folder, files } = JSON.parse(line) as {
          readonly written: number;
          readonly folder: string;
          readonly files: readonly { readonly name: string }[];
        };
        done({
          kind: "built",
          listings: written,
          folder: resolve(root, folder),
          files: files.map(({ name }) => name),
        });
      } catch {
        failed();
      }
    });
  });
