import { Parser } from "htmlparser2";

const silent = new Set(["script", "style", "template", "head", "iframe", "object", "svg", "noscript"]);
const blocks = new Set(
  "p div section article header footer h1 h2 h3 h4 h5 h6 ul ol table tr blockquote pre dl dt dd".split(" "),
);

const looksLikeHtml = /<[a-z!/]|&[a-z#]/i;

const tidy = (text: string): string =>
  text
    .replace(/[ \t\u00a0]+/g, " ")
    .replace(/ ?\n ?/g, "\n")
    .replace(/\n{3,}/g, "\n\n")
    .trim();

/** The words of an HTML text: blocks on lines of their own, list items behind a dash, scripts and styles dropped. */
export const plainText = (html: string): string => {
  if (!looksLikeHtml.test(html)) return html;
  let text = "";
  let muted = 0;
  const parser = new Parser(
    {
      onopentagname(name) {
        if (silent.has(name)) muted++;
        else if (name === "br") text += "\n";
        else if (name === "li") text += "\n- ";
        else if (blocks.has(name)) text += "\n";
      },
      ontext(words) {
        if (muted === 0) text += words.replace(/\s+/g, " ");
      },
      onclosetag(name) {
        if (silent.has(name)) muted = Math.max(0, muted - 1);
        else if (blocks.has(name)) text += "\n";
      },
    },
    { decodeEntities: true },
  );
  parser.end(html);
  return tidy(text);
};
