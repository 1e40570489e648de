/** Tells whoever the workspace names what happened. */
import { existsSync } from "node:fs";
import { basename } from "node:path";
import { diagnostic } from "../core/diagnostics/diagnostic.js";
import { secretFrom, secretsOf } from "../exchange/secrets.js";
import type { Io } from "../io/io.js";
import type { Occasion } from "../workspace/models/telling-model.js";
import type { Workspace } from "../workspace/workspace.js";
import { MANIFEST } from "../workspace/workspace.js";
import { sentence } from "../workspace/wording.js";

/** What happened, for people and programs. */
export interface Happening {
  readonly occasion: Occasion;
  readonly channel: string;
  /** One line. */
  readonly says: string;
  readonly counts: Readonly<Record<string, number>>;
  /** The worst causes, a line each. */
  readonly causes: readonly string[];
  /** A report that goes along with a mail. */
  readonly report: string | undefined;
}

const usual: readonly Occasion[] = ["job-refused", "rebuild-failed", "feed-not-fetched", "sync-stopped"];
const MOST_CAUSES = 10;

/** Tells whoever the workspace names, by mail or by a program of their own; off unless it is set. That it failed is told, and stops nothing. */
export async function tellSomeone(workspace: Workspace, happening: Happening, io: Io): Promise<void> {
  const { tell, shop } = workspace.manifest;
  if (tell === undefined || !(tell.on ?? usual).includes(happening.occasion)) return;
  const { occasion, channel, says, counts, report } = happening;
  const causes = happening.causes.slice(0, MOST_CAUSES);
  const { sendLetter, runTold } = await import("../exchange/telling.js");
  const secrets = secretsOf();
  const trying = async (how: string, work: () => Promise<void>): Promise<void> => {
    try {
      await work();
    } catch (error) {
      const reason = secrets.cleaned((error as Error).message);
      io.err(`${sentence(diagnostic("not-told", { how, occasion, reason }))}\n`);
    }
  };
  const { mail, command } = tell;
  if (mail !== undefined)
    await trying(`a mail over ${mail.server}`, async () => {
      const secret = (variable: string | undefined, key: string): string | undefined => {
        if (variable === undefined) return undefined;
        const found = secretFrom(variable, key, MANIFEST, io);
        secrets.add(found);
        return found;
      };
      const numbers = Object.entries(counts).map(([name, count]) => `${name}: ${count.toLocaleString("en")}`);
      await sendLetter(
        {
          url: new URL(mail.server),
          user: secret(mail.user_from, "tell.mail.user_from"),
          password: secret(mail.password_from, "tell.mail.password_from"),
        },
        {
          to: mail.to,
          from: mail.from,
          subject: `${shop}, ${channel}: ${says}`.slice(0, 200),
          text: [says, "", ...numbers, ...(causes.length === 0 ? [] : ["", ...causes]), ""].join("\n"),
          attachments:
            report !== undefined && existsSync(report) ? [{ filename: basename(report), path: report }] : [],
        },
      );
    });
  if (command !== undefined)
    await trying(`the command ${command[0] ?? ""}`, () => {
      // A workspace that a stranger made must not run a program by itself.
      if (io.environment["LEXICANT_MAY_RUN"] !== "yes")
        return Promise.reject(new Error("set LEXICANT_MAY_RUN=yes where it may run"));
      return runTold(
        command,
        { occasion, channel, says, counts, causes, report: report ?? null },
        workspace.root,
      );
    });
}
