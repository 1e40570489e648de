import { execFileSync, spawn, type ChildProcess } from "node:child_process";
import { chmodSync, existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from "node:fs";
import { connect, createServer, type AddressInfo } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { temporaryFolder } from "./run.js";

const cache = join(tmpdir(), "lexicant-openssh");

/** Debian's own server: as it is installed, or unpacked beside from its packages. Undefined where there is neither. */
const serverFiles = ():
  { readonly sshd: string; readonly sftp: string; readonly libraries: string } | undefined => {
  const installed = { sshd: "/usr/sbin/sshd", sftp: "/usr/lib/openssh/sftp-server", libraries: "" };
  if (existsSync(installed.sshd) && existsSync(installed.sftp)) return installed;
  const unpacked = {
    sshd: join(cache, "usr/sbin/sshd"),
    sftp: join(cache, "usr/lib/openssh/sftp-server"),
    libraries: join(cache, "usr/lib/x86_64-linux-gnu"),
  };
  try {
    if (!existsSync(unpacked.sshd)) {
      const packages = join(cache, "packages");
      mkdirSync(packages, { recursive: true });
      execFileSync("apt-get", ["download", "openssh-server", "openssh-sftp-server", "libwrap0"], {
        cwd: packages,
        stdio: "ignore",
        timeout: 60_000,
      });
      for (const name of readdirSync(packages)) execFileSync("dpkg-deb", ["-x", join(packages, name), cache]);
    }
    execFileSync(unpacked.sshd, ["-t", "-h", "/dev/null"], {
      stdio: "ignore",
      env: { LD_LIBRARY_PATH: unpacked.libraries },
    });
  } catch (error) {
    // It complains of the key, and so it runs.
    if ((error as { status?: number | null }).status === 1 && existsSync(unpacked.sshd)) return unpacked;
    return existsSync(unpacked.sshd) && (error as { code?: string }).code === undefined
      ? unpacked
      : undefined;
  }
  return unpacked;
};

export interface RunningOpenSsh {
  readonly port: number;
  readonly user: string;
  /** A private key that it lets in. */
  readonly keyFile: string;
  /** `SHA256:…` of the host's key. */
  readonly hostKey: string;
  stop(): void;
}

const freePort = (): Promise<number> =>
  new Promise((done) => {
    const server = createServer();
    server.listen(0, "127.0.0.1", () => {
      const { port } = server.address() as AddressInfo;
      server.close(() => done(port));
    });
  });

const answers = (port: number): Promise<boolean> =>
  new Promise((done) => {
    const socket = connect(port, "127.0.0.1");
    socket.once("data", () => {
      socket.destroy();
      done(true);
    });
    socket.once("error", () => done(false));
  });

/**
 * As root the server wants a user of its own, and lets in nobody whose account is locked: it sees users of its own, which
 * no one else on the machine does.
 */
const asRoot = (folder: string): string => {
  const own = (name: string, change: (text: string) => string): string => {
    const path = join(folder, name);
    writeFileSync(path, change(readFileSync(`/etc/${name}`, "utf8")), {
      mode: name === "shadow" ? 0o600 : 0o644,
    });
    return `mount --bind ${path} /etc/${name}`;
  };
  mkdirSync("/run/sshd", { recursive: true });
  const users = own(
    "passwd",
    (text) => `${text.replace(/^sshd:.*\n/m, "")}sshd:x:65533:65534::/run/sshd:/usr/sbin/nologin\n`,
  );
  const secrets = own("shadow", (text) => text.replace(/^nobody:[^:]*:/m, "nobody:NP:"));
  return `${users} && ${secrets} && exec "$@"`;
};

/** Starts a real OpenSSH server with a key of its own; undefined where this machine has none and cannot get one. */
export const startOpenSsh = async (): Promise<RunningOpenSsh | undefined> => {
  const files = serverFiles();
  if (files === undefined) return undefined;
  const folder = temporaryFolder();
  // The server reads its list of keys as the one who comes.
  chmodSync(folder, 0o755);
  const key = (name: string): string => {
    const path = join(folder, name);
    execFileSync("ssh-keygen", ["-q", "-t", "ed25519", "-N", "", "-f", path]);
    return path;
  };
  const [host, own] = [key("host"), key("own")];
  const port = await freePort();
  writeFileSync(join(folder, "allowed"), readFileSync(`${own}.pub`), { mode: 0o644 });
  const isRoot = process.getuid?.() === 0;
  const config = `Port ${port}
ListenAddress 127.0.0.1
HostKey ${host}
AuthorizedKeysFile ${join(folder, "allowed")}
PidFile ${join(folder, "pid")}
StrictModes no
UsePAM no
PasswordAuthentication no
Subsystem sftp internal-sftp
`;
  writeFileSync(join(folder, "config"), config);
  const env = { ...process.env, ...(files.libraries === "" ? {} : { LD_LIBRARY_PATH: files.libraries }) };
  const line = [files.sshd, "-D", "-e", "-f", join(folder, "config")];
  const child: ChildProcess = isRoot
    ? spawn("unshare", ["-m", "sh", "-c", asRoot(folder), "sh", ...line], { stdio: "ignore", env })
    : spawn(line[0] ?? "", line.slice(1), { stdio: "ignore", env });
  for (let tried = 0; !(await answers(port)); tried++) {
    if (tried > 50 || child.exitCode !== null) {
      child.kill();
      return undefined;
    }
    await new Promise((done) => setTimeout(done, 100));
  }
  const hostKey =
    execFileSync("ssh-keygen", ["-lf", `${host}.pub`])
      .toString()
      .split(" ")[1] ?? "";
  const user = isRoot ? "nobody" : execFileSync("id", ["-un"]).toString().trim();
  return { port, user, keyFile: own, hostKey, stop: () => void child.kill() };
};
