// Letters of Latin alphabets that do not come apart into a letter of ASCII and a mark (Unicode, normal form KD): what they
// are written as where only a to z can stand, and the letters, in small. Those of phonetics alone are there where they
// have a plain letter's name.
const table = `
a ⱥɐɑɒᴀᶏᶐꞻꬰꬱꭤ
aa ꜳ
ae æᴁᴂꞛ
ao ꜵ
au ꜷ
av ꜹꜻ
ay ꜽ
b ƀɓƃʙᴃᵬᶀꞗꞵ
c ƈȼɕʗᴄↄꜿꞓꞔ𝼏𝼝ǀ
ch ꭓꭔꭕ
con ꝯ
d ðđɖɗƌȡᴅᴆᵭᶁᶑꝺꟈẟƍ
db ȸ
dum ꝱ
dz ʣʥꭦ
dzh ʤ𝼒𝼙
e ǝəɛɇɘɚɜɝɞʚᴇᴈᶒᶓᶔᶕⱸⱻꬲꬳꬴ
et ꝫ
f ƒɸᵮᶂꜰꝼꞙꟻꬵ
fng ʩ𝼀
g ɠɣǥɡɢʛᵷᵹᶃꝿꞡꟑꬶ𝼁𝼂
h ħɥɦɧʜʮʯⱨⱶꜧꞕꟶ
hv ƕ
i ıɩɨɪᴉᵼᶖꞽꟷꟾ𝼚
is ꝭ
j ȷɉɟʄʝᴊ
k ĸƙʞᴋᶄⱪꜭꜯꝁꝃꝅꞣ𝼃𝼐
l łƚƛȴɫɬɭʟᴌᶅⱡꝇꝉꞁꞎꬷꬸꬹ𝼄𝼑𝼓
ls ʪ
lum ꝲ
lz ʫ
lzh ɮ𝼅
m ɯɰɱᴍᴟᵯᶆꟺꟽꟿꬺ
mum ꝳ
n ɲƞȵɳɴᴎᵰᶇꞑꞥꬻ
ng ŋꬼ𝼇𝼔
num ꝴ
o øɔɵɷᴏᴐᴑᴒᴓᴖᶗⱺꝋꝍꞷꟁꬽꬾꬿꭃꭄ𝼛ɤᴗ
oe œɶᴔꞝꭀꭁꭂꭢ
oi ƣ
oo ꝏ
ou ȣᴕ
p ƥᴘᵱᵽᶈꝑꝓꝕꟼ
q ɋʠꝗꝙꞯǃɂʔʕʖʡʢ
qp ȹ
r ʀɍɹɺɻɼɽɾɿʁᴙᴚᵲᵳᶉⱹꝛꞃꞧꭅꭆꭇꭈꭉꭊꭋꭌꭨ𝼈𝼕𝼖
rum ꝝꝵꝶ
s ȿʂᵴᶊꜱꞅꞩꟊꟗꟙ𝼞ẝẜ
sh ʃʅʆᶋᶘꭍ𝼋𝼌ƪ
ss ß
t ŧƫƭʈȶⱦʇᴛᵵꜫꞇ𝼉𝼍
tc ʨ
th þᵺꝥꝧꟓ
ts ʦꭧƾ
tsh ʧ𝼗𝼜
tum ꝷ
tz ꜩ
u ʊʉᴜᴝᴞᵿᶙꞹꞿꭎꭏꭒ
ue ᵫꞟ
ui ꭐꭑ
um ꝸ
uo ꭣ
v ʋʌᴠᶌⱱⱴꝟꝩỽǂ
vy ꝡ
w ƿʍᴡⱳꟃꟕ
x ᶍꭖꭗꭘꭙǁ
y ƴȝɏʎʏỿꭚ𝼆
z ƶȥɀʐʑᴢᵶᶎⱬꝣ
zh ʒƹƺʓᴣᶚ𝼘
ll ỻ
6 ƅ
2 ƨƻ
5 ƽ
`;

const plain = new Map(
  table
    .trim()
    .split("\n")
    .flatMap((line) => {
      const [letters = "", written = ""] = line.split(" ");
      return [...written].map((letter) => [letter, letters] as const);
    }),
);

/** A text in small letters of ASCII as far as its letters are Latin: `straße` becomes `strasse`, `łódź` `lodz`. */
export function asciiLetters(text: string): string {
  return (
    text
      .normalize("NFKD")
      .replace(/\p{M}/gu, "")
      .toLowerCase()
      // eslint-disable-next-line no-control-regex
      .replace(/[^\u0000-\u007f]/gu, (letter) => plain.get(letter) ?? letter)
  );
}
