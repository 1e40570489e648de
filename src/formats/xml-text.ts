/* eslint-disable no-control-regex -- control characters are what this file is about */
// What XML 1.0 forbids even as a reference, lone surrogates included.
const forbidden =
  /[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]|[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/g;
const special = /[&<>"\u0000-\u001f\ud800-\udfff\ufffe\uffff]/;

/** Text for an XML element or a double-quoted attribute; characters that XML forbids are dropped. */
export function xmlText(text: string): string {
  return special.test(text)
    ? text
        .replace(forbidden, "")
        .replace(/&/g, "&amp;")
        .replace(/</g, "&lt;")
        .replace(/>/g, "&gt;")
        .replace(/"/g, "&quot;")
        .replace(/\r/g, "&#13;")
    : text;
}
