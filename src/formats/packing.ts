/** Packs files, without a time, so that the same bytes come out the same. */
import { createGzip, type Gzip } from "node:zlib";

/** How a file is packed. */
export const packings = ["none", "gzip", "zip"] as const;

export type Packing = (typeof packings)[number];

/** Takes a file's bytes piece by piece and gives those of its package; without a time, so that the same bytes come of the same. */
export interface Packer {
  /** The package's name for a file. */
  readonly name: (file: string) => string;
  push(bytes: Uint8Array): Promise<Uint8Array>;
  end(): Promise<Uint8Array>;
}

const plain = (): Packer => ({
  name: (file) => file,
  push: (bytes) => Promise.resolve(bytes),
  end: () => Promise.resolve(new Uint8Array()),
});

function gzip(): Packer {
  const stream: Gzip = createGzip();
  let ready: Buffer[] = [];
  stream.on("data", (chunk: Buffer) => ready.push(chunk));
  const taken = (): Uint8Array => {
    const bytes = Buffer.concat(ready);
    ready = [];
    return bytes;
  };
  return {
    name: (file) => `${file}.gz`,
    push: (bytes) =>
      new Promise((done, failed) => {
        stream.write(bytes, (error) => {
          if (error == null) done(taken());
          else failed(error);
        });
      }),
    end: () =>
      new Promise((done, failed) => {
        stream.on("end", () => done(taken())).on("error", failed);
        stream.end();
      }),
  };
}

const UNDATED = new Date("1980-01-01T00:00:00");

async function zip(file: string): Promise<Packer> {
  const { Zip, ZipDeflate } = await import("fflate");
  let ready: Uint8Array[] = [];
  const archive = new Zip((error, chunk) => {
    if (error !== null) throw error;
    ready.push(chunk);
  });
  const member = new ZipDeflate(file, { level: 6 });
  member.mtime = UNDATED;
  archive.add(member);
  const taken = (): Uint8Array => {
    const bytes = Buffer.concat(ready);
    ready = [];
    return bytes;
  };
  return {
    name: (own) => `${own}.zip`,
    push(bytes) {
      member.push(bytes);
      return Promise.resolve(taken());
    },
    end() {
      member.push(new Uint8Array(), true);
      archive.end();
      return Promise.resolve(taken());
    },
  };
}

/** Begins to pack a file of a name. */
export function packer(packing: Packing, file: string): Promise<Packer> {
  if (packing === "zip") return zip(file);
  return Promise.resolve(packing === "gzip" ? gzip() : plain());
}
