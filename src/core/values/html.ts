/** HTML to plain words and back; nothing that could run stays. */
import { ownOf } from "../own.js";
import { Parser } from "htmlparser2";

const silent = new Set(["script", "style", "template", "head", "iframe", "object", "svg", "noscript"]);
const blocks = new Set(
  (
    "p div section article aside main nav header footer address h1 h2 h3 h4 h5 h6 ul ol dl dt dd table caption thead tbody tfoot tr " +
    "blockquote pre figure figcaption details summary fieldset legend form hr"
  ).split(" "),
);
// Cells of a row and choices of a list stand beside each other, parted by a blank.
const parted = new Set(["td", "th", "option", "img"]);

const looksLikeHtml = /<[a-z!/]|&[a-z#]/i;

const tidy = (text: string): string =>
  text
    .replace(/[ \t\u00a0]+/g, " ")
    .replace(/ ?\n ?/g, "\n")
    .replace(/\n{3,}/g, "\n\n")
    .trim();

// Members of a group follow each other with the same text, and several fields ask for it.
let latest = { html: "", plain: "" };

/** The words of an HTML text: blocks on lines of their own, list items behind a dash, scripts and styles dropped. */
export function plainText(html: string): string {
  if (latest.html === html) return latest.plain;
  latest = { html, plain: looksLikeHtml.test(html) ? withoutMarks(html) : html };
  return latest.plain;
}

function withoutMarks(html: string): string {
  let text = "";
  let muted = 0;
  const parser = new Parser(
    {
      onopentagname(name) {
        if (silent.has(name)) muted++;
        else if (name === "br") text += "\n";
        else if (name === "li") text += "\n- ";
        else if (blocks.has(name)) text += "\n";
        else if (parted.has(name)) text += " ";
      },
      ontext(words) {
        if (muted === 0) text += words.replace(/\s+/g, " ");
      },
      onclosetag(name) {
        if (silent.has(name)) muted = Math.max(0, muted - 1);
        else if (blocks.has(name)) text += "\n";
        else if (parted.has(name)) text += " ";
      },
    },
    { decodeEntities: true },
  );
  parser.end(html);
  return tidy(text);
}

const signs: Readonly<Record<string, string>> = {
  "&": "&amp;",
  "<": "&lt;",
  ">": "&gt;",
  '"': "&quot;",
  "'": "&#39;",
};

// A sign that is escaped already: `&amp;`, `&#38;`.
const reference = /&(?:[a-z][a-z0-9]{1,30}|#\d{1,7}|#x[0-9a-f]{1,6});/gi;

/** The same for a text whose signs may be escaped already, as shop systems hand them out: each is escaped once. */
function escapedOnce(text: string): string {
  let html = "";
  let from = 0;
  for (const { 0: written, index } of text.matchAll(reference)) {
    html += escapedText(text.slice(from, index)) + written;
    from = index + written.length;
  }
  return html + escapedText(text.slice(from));
}

/** A plain text with the signs that mean something in HTML escaped. */
export const escapedText = (text: string): string =>
  text.replace(/[&<>"']/g, (sign) => ownOf(signs, sign) ?? sign);

const tag = /<\/?[a-z][^<>]*>/i;
const dash = /^\s*[-–•*]\s+/;

function blockHtml(block: string): string {
  const lines = block.split("\n");
  let html = "";
  let [words, entries]: [string[], string[]] = [[], []];
  const endParagraph = (): void => {
    if (words.length > 0) html += `<p>${words.join("<br>")}</p>`;
    words = [];
  };
  const endList = (): void => {
    if (entries.length > 0) html += `<ul>${entries.map((entry) => `<li>${entry}</li>`).join("")}</ul>`;
    entries = [];
  };
  for (const line of lines)
    if (dash.test(line)) {
      endParagraph();
      entries.push(escapedOnce(line.replace(dash, "")));
    } else if (line.trim() !== "") {
      endList();
      words.push(escapedOnce(line.trim()));
    }
  endParagraph();
  endList();
  return html;
}

/** A plain text as HTML paragraphs and lists; a text that has marks of HTML already stays as it is. */
export function htmlText(text: string): string {
  return tag.test(text)
    ? text
    : text
        .split(/\n[^\S\n]*\n/)
        .map(blockHtml)
        .join("");
}
