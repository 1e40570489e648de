/** Tells people: by mail, or by a program of theirs. */
import { spawn } from "node:child_process";
import { createTransport } from "nodemailer";

/** A letter to people. */
export interface Letter {
  readonly to: readonly string[];
  readonly from: string;
  readonly subject: string;
  readonly text: string;
  /** Files that go along. */
  readonly attachments: readonly { readonly filename: string; readonly path: string }[];
}

/** Where letters are handed in. */
export interface MailServer {
  /** smtp: or smtps: */
  readonly url: URL;
  readonly user: string | undefined;
  readonly password: string | undefined;
}

const SMTP_PORT = 587;
const SMTPS_PORT = 465;
const PATIENCE_MILLISECONDS = 30_000;

/** Sends a letter. A name and password go over an encrypted line alone. */
export async function sendLetter({ url, user, password }: MailServer, letter: Letter): Promise<void> {
  const secure = url.protocol === "smtps:";
  const transport = createTransport({
    host: url.hostname.replace(/^\[|\]$/g, ""),
    port: url.port === "" ? (secure ? SMTPS_PORT : SMTP_PORT) : Number(url.port),
    secure,
    ...(user === undefined ? {} : { auth: { user, pass: password ?? "" }, requireTLS: !secure }),
    connectionTimeout: PATIENCE_MILLISECONDS,
    socketTimeout: PATIENCE_MILLISECONDS,
    disableFileAccess: false,
    disableUrlAccess: true,
  });
  try {
    await transport.sendMail({ ...letter, to: [...letter.to], attachments: [...letter.attachments] });
  } finally {
    transport.close();
  }
}

const COMMAND_MILLISECONDS = 60_000;

/** Runs a person's own program, without a shell, with facts as JSON on its standard input. @throws where it does not end well */
export function runTold(command: readonly string[], facts: unknown, cwd: string): Promise<void> {
  return new Promise((resolve, reject) => {
    const [program = "", ...args] = command;
    const child = spawn(program, args, { cwd, stdio: ["pipe", "ignore", "ignore"] });
    // A time limit of spawn's own would keep the process where no program was found.
    const timer = setTimeout(() => child.kill("SIGKILL"), COMMAND_MILLISECONDS);
    timer.unref();
    child.on("error", (error) => {
      clearTimeout(timer);
      reject(error);
    });
    child.on("close", (exit, signal) => {
      clearTimeout(timer);
      if (exit === 0) resolve();
      else
        reject(
          new Error(signal === null ? `it ended with ${exit ?? "nothing"}` : `it was ended by ${signal}`),
        );
    });
    child.stdin.on("error", () => undefined);
    child.stdin.end(`${JSON.stringify(facts)}\n`);
  });
}
