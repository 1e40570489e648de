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

const named: Readonly<Record<string, string>> = {
  ...{
    deutsch: "de",
    german: "de",
    ger: "de",
    deu: "de",
    allemand: "de",
    alemán: "de",
    tedesco: "de",
    duits: "de",
  },
  ...{ english: "en", englisch: "en", eng: "en", anglais: "en", inglés: "en", inglese: "en", engels: "en" },
  ...{
    french: "fr",
    französisch: "fr",
    français: "fr",
    fra: "fr",
    fre: "fr",
    francés: "fr",
    francese: "fr",
    frans: "fr",
  },
  ...{
    spanish: "es",
    spanisch: "es",
    español: "es",
    espagnol: "es",
    spa: "es",
    spagnolo: "es",
    spaans: "es",
  },
  ...{ italian: "it", italienisch: "it", italiano: "it", italien: "it", ita: "it", italiaans: "it" },
  ...{
    dutch: "nl",
    niederländisch: "nl",
    nederlands: "nl",
    néerlandais: "nl",
    holandés: "nl",
    nld: "nl",
    dut: "nl",
  },
  ...{ polish: "pl", polnisch: "pl", polski: "pl", polonais: "pl", pol: "pl" },
  ...{ swedish: "sv", schwedisch: "sv", svenska: "sv", norwegian: "no", norwegisch: "no", norsk: "no" },
  ...{ danish: "da", dänisch: "da", dansk: "da", finnish: "fi", finnisch: "fi", suomi: "fi" },
  ...{
    portuguese: "pt",
    portugiesisch: "pt",
    português: "pt",
    portugais: "pt",
    czech: "cs",
    tschechisch: "cs",
  },
};

const byWord = new Map(Object.entries(named).map(([word, code]) => [fold(word), code]));

/** A language by its word in some language, such as `français`; undefined for any other word. */
export const languageNamed = (word: string): string | undefined => byWord.get(fold(word));

/** A language as a cell says it: `fr`, `FR`, `fr-CH`, `Französisch`; undefined where it is none that is known. */
export function languageIn(text: string): string | undefined {
  const [, code = "", region = ""] = /^([a-z]{2})(?:[-_]([a-z]{2,4}))?$/i.exec(text) ?? [];
  if (!codes.has(code.toLowerCase())) return languageNamed(text);
  return region === "" ? code.toLowerCase() : `${code.toLowerCase()}-${region.toUpperCase()}`;
}
