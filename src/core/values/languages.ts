/** Languages by their short names (ISO 639-1) and by the words that people write for them. */
import { fold } from "./text.js";

const codes = new Set(
  (
    "aa ab ae af ak am an ar as av ay az ba be bg bh bi bm bn bo br bs ca ce ch co cr cs cu cv cy da de dv dz ee el en eo " +
    "es et eu fa ff fi fj fo fr fy ga gd gl gn gu gv ha he hi ho hr ht hu hy hz ia id ie ig ii ik io is it iu ja jv ka kg " +
    "ki kj kk kl km kn ko kr ks ku kv kw ky la lb lg li ln lo lt lu lv mg mh mi mk ml mn mr ms mt my na nb nd ne ng nl nn " +
    "no nr nv ny oc oj om or os pa pi pl ps pt qu rm rn ro ru rw sa sc sd se sg si sk sl sm sn so sq sr ss st su sv sw ta " +
    "te tg th ti tk tl tn to tr ts tt tw ty ug uk ur uz ve vi vo wa wo xh yi yo za zh zu"
  ).split(" "),
);

/** What people write for a language, by its short name. */
const words: Readonly<Record<string, string>> = {
  de: "deutsch; german; ger; deu; allemand; alemán; tedesco; duits",
  en: "english; englisch; eng; anglais; inglés; inglese; engels",
  fr: "french; französisch; français; fra; fre; francés; francese; frans",
  es: "spanish; spanisch; español; espagnol; spa; spagnolo; spaans",
  it: "italian; italienisch; italiano; italien; ita; italiaans",
  nl: "dutch; niederländisch; nederlands; néerlandais; holandés; nld; dut",
  pl: "polish; polnisch; polski; polonais; pol",
  sv: "swedish; schwedisch; svenska",
  no: "norwegian; norwegisch; norsk",
  da: "danish; dänisch; dansk",
  fi: "finnish; finnisch; suomi",
  pt: "portuguese; portugiesisch; português; portugais",
  cs: "czech; tschechisch",
};

const byWord: ReadonlyMap<string, string> = new Map(
  Object.entries(words).flatMap(([code, all]) => all.split("; ").map((word) => [fold(word), code] as const)),
);

/** A language by its word in some language, such as `français`; undefined for any other word. */
export const languageNamed = (word: string): string | undefined => byWord.get(fold(word));

/** A language as a cell says it: `fr`, `FR`, `fr-CH`, `Französisch`; undefined where it is none that is known. */
export function languageIn(text: string): string | undefined {
  const [, code = "", region = ""] = /^([a-z]{2})(?:[-_]([a-z]{2,4}))?$/i.exec(text) ?? [];
  if (!codes.has(code.toLowerCase())) return languageNamed(text);
  return region === "" ? code.toLowerCase() : `${code.toLowerCase()}-${region.toUpperCase()}`;
}
