import { crc32, deflateSync } from "node:zlib";

/** A grey picture of a size: PNG by its own rules (ISO/IEC 15948). */
export const png = (width: number, height: number): Buffer => {
  const chunk = (type: string, content: Buffer): Buffer => {
    const body = Buffer.concat([Buffer.from(type, "latin1"), content]);
    const [length, check] = [Buffer.alloc(4), Buffer.alloc(4)];
    length.writeUInt32BE(content.length);
    check.writeUInt32BE(crc32(body));
    return Buffer.concat([length, body, check]);
  };
  const head = Buffer.alloc(13);
  head.writeUInt32BE(width, 0);
  head.writeUInt32BE(height, 4);
  head.writeUInt8(8, 8);
  return Buffer.concat([
    Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]),
    chunk("IHDR", head),
    chunk("IDAT", deflateSync(Buffer.alloc((width + 1) * height))),
    chunk("IEND", Buffer.alloc(0)),
  ]);
};
