// The same as duckdb.mjs, as an engineer would write it with Miller. Gives the arguments of `mlr`.
const script = `
$headline = $Title;
if ($Colour != "") { $headline .= ", " . $Colour }
if ($Size != "") { $headline .= ", " . $Size }
$words = clean_whitespace(gsub(gsub(gsub($[[["Long text"]]] ?? \${Long text}, "<[^>]+>", " "), "&nbsp;", " "), "&amp;", "&"));
$goods_kind = \${Own make} == "yes" ? "own make" : "trade goods";
$wear = $Condition == "" ? "new" : $Condition;
$amount = fmtnum(float(gsub($Price, "[£,]", "")), "%.2f");
$currency = "GBP";
$offer_amount = \${Offer price} == "" ? "" : fmtnum(float(gsub(\${Offer price}, "[£,]", "")), "%.2f");
$supply = \${In stock} > 0 ? "on the shelf" : \${Back on} != "" ? "ordered in" : "sold out";
$parcel_kg = \${Parcel weight} != "" ? \${Parcel weight} : \${Item weight} != "" ? fmtnum(float(\${Item weight}) * 1.1, "%.6lf") : "";
pictures = splitax($Picture, "|");
$picture = pictures[1];
$further_picture = joinv(pictures[2:10], ",");
`.replace('$[[["Long text"]]] ?? ', "");

const names = [
  ["channel_category", "shelf"],
  ["Article no", "ref"],
  ["Family", "family"],
  ["Brand", "maker"],
  ["Maker's no", "part_number"],
  ["Barcode", "barcode"],
  ["Made in", "origin"],
  ["Material", "made_of"],
  ["Colour", "tint"],
  ["Size", "fit"],
  ["Age group", "for_age"],
  ["Offer until", "offer_ends"],
  ["Page", "page"],
  ["Author", "author"],
  ["Least age", "least_age"],
  ["Battery", "battery_kind"],
  ["Hazard", "hazard_note"],
];

const made =
  "headline,words,goods_kind,wear,amount,currency,offer_amount,supply,parcel_kg,picture,further_picture";

export const millerArguments = (from, placements) => [
  ...[
    "--icsv",
    "--otsv",
    "-S",
    "join",
    "--ul",
    "-f",
    placements,
    "-l",
    "our_category",
    "-r",
    "Section",
    "-j",
    "Section",
  ],
  ...["then", "filter", '$Status == "on sale"', "then", "put", script],
  ...["then", "rename", names.flat().join(",")],
  ...["then", "cut", "-o", "-f", `${names.map(([, to]) => to).join(",")},${made}`, from],
];
