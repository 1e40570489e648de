import { createReadStream } from "node:fs";

/** A form as it goes over the line: its length is known before it is sent. */
export interface FormBody {
  readonly type: string;
  readonly length: number;
  bytes(): AsyncGenerator<Buffer>;
}

const quoted = (text: string): string =>
  `"${text.replace(/["\r\n\\]/g, (sign) => encodeURIComponent(sign))}"`;

/** A file with further parts as multipart/form-data (RFC 7578), read from the disk as it goes. */
export function formBody(
  file: { readonly part: string; readonly name: string; readonly path: string; readonly bytes: number },
  parts: Readonly<Record<string, string>>,
  key: string,
): FormBody {
  const boundary = `part-${key.replace(/[^A-Za-z0-9]/g, "")}`;
  const head = Buffer.from(
    `${Object.entries(parts)
      .map(
        ([name, text]) =>
          `--${boundary}\r\nContent-Disposition: form-data; name=${quoted(name)}\r\n\r\n${text}\r\n`,
      )
      .join(
        "",
      )}--${boundary}\r\nContent-Disposition: form-data; name=${quoted(file.part)}; filename=${quoted(file.name)}\r\nContent-Type: application/octet-stream\r\n\r\n`,
  );
  const tail = Buffer.from(`\r\n--${boundary}--\r\n`);
  return {
    type: `multipart/form-data; boundary=${boundary}`,
    length: head.length + file.bytes + tail.length,
    async *bytes() {
      yield head;
      for await (const chunk of createReadStream(file.path)) yield chunk as Buffer;
      yield tail;
    },
  };
}
