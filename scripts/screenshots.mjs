// Pictures of the main commands on the demo shop, in a real terminal window: docs/screenshots/*.png.
import { spawn, spawnSync } from "node:child_process";
import { appendFileSync, mkdirSync, mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { build, install, root, systemPrograms } from "./setup.mjs";

install();
build();
systemPrograms({
  Xvfb: "xvfb",
  xterm: "xterm",
  import: "imagemagick",
  "fc-list": "fontconfig",
  soffice: "libreoffice-calc",
  "python3:openpyxl": "python3-openpyxl",
});

const folder = mkdtempSync(join(tmpdir(), "lexicant-shots-"));
const bin = join(folder, "bin");
mkdirSync(bin);
writeFileSync(
  join(bin, "lexicant"),
  // In a picture colours are seen although the output may go through a pipe, and nothing waits for a key.
  `#!/bin/sh\nexec "${process.execPath}" "${join(root, "dist", "main.js")}" "$@" $SHOT_OPTIONS\n`,
  {
    mode: 0o755,
  },
);
const environment = {
  ...process.env,
  PATH: `${bin}:${process.env.PATH}`,
  LEXICANT_TODAY: "2026-11-25",
  TERM: "xterm-256color",
  LEXICANT_SANDBOX_TOKEN: "token-for-pictures",
  SHOP_TOKEN: "token-for-pictures",
};
Reflect.deleteProperty(environment, "NO_COLOR");
Reflect.deleteProperty(environment, "COLUMNS");

const sh = (command, cwd) => spawnSync("sh", ["-c", command], { cwd, env: environment, encoding: "utf8" });
const shop = join(folder, "brindlecote");
sh("lexicant demo brindlecote", folder);
writeFileSync(
  join(shop, "data", "wax-melts.csv"),
  "Item;What it is;Colour;RRP £;Trade £;EAN;Net g;Box size;Photo\n" +
    "WM-01;Wax melt, fig;plum;4,50;1,90;9524000088017;40;8 x 5 x 2 cm;https://melts.example/wm-01.jpg\n" +
    "WM-02;Wax melt, hay;straw;4,50;1,90;9524000088024;40;8 x 5 x 2 cm;https://melts.example/wm-02.jpg\n" +
    "WM-03;Wax melt, smoke;grey;4,95;2,10;9524000088031;40;8 x 5 x 2 cm;https://melts.example/wm-03.jpg\n",
);
writeFileSync(
  join(shop, "data", "melts.csv"),
  "Item;What it is;Tin;RRP £;Trade £;EAN;Net g;Photo\n" +
    "WM-01;Wax melt, fig;plum;4,50;1,90;9524000088017;40;https://melts.example/wm-01.jpg\n" +
    "WM-02;Wax melt, hay;straw;4,50;1,90;9524000088024;40;https://melts.example/wm-02.jpg\n",
);
writeFileSync(
  join(shop, "data", "rillbach.xml"),
  `<?xml version="1.0"?>
<pricelist currency="EUR"><range name="Hoses" brand="Rillbach">
<item no="R-1" ean="9524000088055"><title xml:lang="en">Hose, 20 m</title><title xml:lang="de">Schlauch, 20 m</title><price kind="net">12.40</price><price kind="retail">29.90</price><stock>40</stock><weight unit="kg">2.4</weight><fact name="Colour">green</fact></item>
<item no="R-2" ean="9524000088062"><title xml:lang="en">Hose, 30 m</title><title xml:lang="de">Schlauch, 30 m</title><price kind="net">17.10</price><price kind="retail">39.90</price><stock>sold out</stock><weight unit="g">3100</weight><fact name="Colour">green</fact></item></range>
<range name="Nozzles" brand="Rillbach"><item no="R-7" ean="9524000088079"><title xml:lang="en">Spray nozzle</title><title xml:lang="de">Sprühdüse</title><price kind="net">3.20</price><price kind="retail">8.90</price><stock>95</stock><fact name="Material">brass</fact></item></range></pricelist>`,
);
// A person at a terminal of their own: what they type is written line by line.
writeFileSync(
  join(folder, "type.py"),
  `import os, pty, select, sys, time
pid, terminal = pty.fork()
if pid == 0: os.execvp(sys.argv[1], sys.argv[1:])
import fcntl, struct, termios
fcntl.ioctl(terminal, termios.TIOCSWINSZ, struct.pack("HHHH", 46, 112, 0, 0))
typed, begun = [(2.5, "? shade"), (3.2, "3 color"), (4.2, "y")], time.time()
while True:
  ready, _, _ = select.select([terminal], [], [], 0.1)
  if ready:
    try: data = os.read(terminal, 65536)
    except OSError: break
    if not data: break
    os.write(1, data)
  if typed and time.time() - begun > typed[0][0]: os.write(terminal, (typed.pop(0)[1] + "\\n").encode())
`,
);
sh('lexicant set BC-1402 price=7.95 "name=Bee Brush, real horsehair"', shop);
sh("lexicant export sheet.csv --only price,quantity", shop);
sh(
  "sed -i 's/^BC-1602,1149.00 GBP/BC-1602,1099.00 GBP/; s/^BC-1101-10,219.00 GBP/BC-1101-10,229.00 GBP/' sheet.csv",
  shop,
);

const placed = join(folder, "brindlecote-placed");
sh("cp -r brindlecote brindlecote-placed", folder);
sh(
  "printf 'our_category,channel_category\\n' > channels/merrowgate/placements.csv; lexicant place merrowgate --accept-above 85",
  placed,
);
const untold = join(folder, "brindlecote-untold");
sh("cp -r brindlecote brindlecote-untold", folder);
sh("printf 'field,our_category,our_term,channel_value\\n' > channels/merrowgate/lexicon.csv", untold);

// A gap sheet as a person would hand it back: one pattern for all hives but one, some weights, one slip.
const asked = join(folder, "brindlecote-asked");
sh("cp -r brindlecote brindlecote-asked", folder);
sh("lexicant gaps merrowgate --out gaps.xlsx", asked);
sh("cp gaps.xlsx filled.xlsx", asked);
writeFileSync(
  join(folder, "fill.py"),
  `import openpyxl
book = openpyxl.load_workbook("filled.xlsx")
typed = {"Hive pattern (Merrowgate)": {"(same for all)": "National", "BC-1702": "own pattern"},
  "Size": {"BC-5105": "pack of 100", "BC-5106-STRAW": "50 labels"}, "Pieces in the pack (Merrowgate)": {"BC-1123-DEEP": "ten"},
  "Material": {"BC-1106-GREY": "polystyrene", "BC-1106-GREEN": "polystyrene"}, "Package weight": {"BC-5203": "50 g"}}
for sheet in book.worksheets:
  titles = {sheet.cell(2, c).value: c for c in range(1, sheet.max_column + 1)}
  rows = {sheet.cell(r, 1).value: r for r in range(4, sheet.max_row + 1)}
  for title, answers in typed.items():
    for sku, value in answers.items():
      if title in titles and sku in rows: sheet.cell(rows[sku], titles[title]).value = value
book.save("filled.xlsx")
`,
);
sh("/usr/bin/python3 ../fill.py", asked);

// A channel that was sent everything; then a price and a colour change.
const sent = join(folder, "brindlecote-sent");
sh("cp -r brindlecote brindlecote-sent", folder);
sh("lexicant build fjordhandel; lexicant sent fjordhandel", sent);
sh('lexicant set BC-1602 price=1099; lexicant set BC-1301-WHITE-M color="off white"', sent);

// Channels that a sandbox plays: one was sent all, one waits; and a person at the channel changes things.
const traded = join(folder, "brindlecote-traded");
sh("cp -r brindlecote brindlecote-traded", folder);
const PORT = 41_897;
const sandbox = spawn(
  join(bin, "lexicant"),
  [
    "sandbox",
    "--port",
    String(PORT),
    "--quiet",
    "--pace",
    "50",
    "--dislikes",
    "merrowgate:item_title:copper",
  ],
  { cwd: folder, env: environment, stdio: "ignore" },
);
for (const channel of ["merrowgate", "chatterquay"])
  appendFileSync(
    join(traded, "channels", channel, "channel.yaml"),
    `\nexchange:\n  address: http://127.0.0.1:${PORT}/${channel}\n  token_from: SHOP_TOKEN\n  private_address: yes\n`,
  );
sh("sleep 2; lexicant build merrowgate chatterquay; lexicant submit chatterquay --wait", traded);
const steer = (wish) =>
  `node -e 'fetch("http://127.0.0.1:${PORT}/sandbox", { method: "POST", body: JSON.stringify(${JSON.stringify({ channel: "merrowgate", ...wish })}) })'`;

const reissued = join(folder, "reissued");
sh(`cp -r ${shop} ${reissued}`, folder);
sh(
  "lexicant channels learn tansyfield papers/tansyfield/goods-2026.xlsx papers/tansyfield/departments.csv",
  reissued,
);
sh("lexicant channels add tansyfield; lexicant place tansyfield --accept-above 80", reissued);
sh("lexicant channels learn tansyfield papers/tansyfield/goods-2027.xlsx --as 2027", reissued);
const shots = {
  submit: [traded, "lexicant submit merrowgate --dry-run | head -6", "lexicant submit merrowgate"],
  results: [traded, "lexicant results merrowgate --wait"],
  learn: [
    shop,
    "lexicant channels learn tansyfield papers/tansyfield/goods-2026.xlsx papers/tansyfield/departments.csv",
    "lexicant channels learn tansyfield --review",
  ],
  compare: [reissued, "lexicant channels compare tansyfield 1 2027"],
  reconcile: [
    traded,
    `node ${join(root, "dist", "main.js")} results merrowgate --wait > results.txt || true`,
    steer({ reference: "BC-1104", cells: { item_title: "Cheap hive!!!" } }),
    steer({ reference: "BC-1120-10", cells: null }),
    steer({ reference: "OTHER-7", cells: { item_ref: "OTHER-7", item_title: "Not one of ours" } }),
    "lexicant set BC-1402 price=9.40",
    "lexicant reconcile merrowgate --fix",
  ],
  proposal: [shop, "lexicant import data/rillbach.xml --accept"],
  review: [shop, `/usr/bin/python3 ${join(folder, "type.py")} lexicant import data/melts.csv`],
  show: [shop, "lexicant show BC-1101-10 | head -44"],
  check: [shop, "lexicant check merrowgate"],
  readiness: [shop, "lexicant readiness"],
  explain: [shop, "lexicant explain BC-5203 gavelstead"],
  gaps: [asked, "lexicant gaps merrowgate --out seeds.xlsx --category Seeds", "lexicant import filled.xlsx"],
  place: [placed, "lexicant place merrowgate --list | head -44"],
  lexicon: [untold, "lexicant lexicon merrowgate --list"],
  fills: [shop, 'lexicant fills merrowgate "Beekeeping > Hives"'],
  build: [
    sent,
    "lexicant build lanternlist fjordhandel",
    "lexicant build lanternlist --category Seeds",
    "lexicant build fjordhandel --purpose amend",
  ],
  diff: [
    sent,
    "lexicant diff fjordhandel",
    "lexicant sent fjordhandel --dry-run",
    "lexicant history --limit 4",
  ],
};

const COLUMNS = 112;
/** More does not fit on the screen. */
const ROWS = 46;

/** What only commands in a picture are given. */
const shooting = { ...environment, SHOT_OPTIONS: "--color always --no-pager" };

/** How high a window must be for what some commands say, the command lines with it; those that ask are as high as their own terminal. */
const linesOf = (commands, cwd) => {
  if (commands.some((command) => command.includes("type.py"))) return ROWS;
  const copy = join(folder, "measured");
  sh(`rm -rf ${copy}; cp -r . ${copy}`, cwd);
  const script = `stty cols ${COLUMNS}; ${commands.map((command) => `echo; ${command}`).join("; ")}`;
  const { stdout } = spawnSync("script", ["-qec", script, "/dev/null"], {
    cwd: copy,
    env: shooting,
    encoding: "utf8",
  });
  return stdout.split("\n").length;
};

const pause = (milliseconds) => new Promise((resolve) => setTimeout(resolve, milliseconds));
const display = ":97";
const server = spawn("Xvfb", [display, "-screen", "0", "1280x1000x24"], { stdio: "ignore" });
await pause(1500);
const target = join(root, "docs", "screenshots");
mkdirSync(target, { recursive: true });
const wanted = process.argv.slice(2);
const isWanted = (name) => wanted.length === 0 || wanted.includes(name);
const takePicture = (name) => {
  const picture = join(target, `${name}.png`);
  const onDisplay = { env: { ...environment, DISPLAY: display } };
  const { status } = spawnSync("import", ["-window", "root", picture], onDisplay);
  // The window alone: what lies around it is the black of an empty screen.
  spawnSync("mogrify", [
    "-bordercolor",
    "black",
    "-border",
    "1",
    "-trim",
    "+repage",
    "-depth",
    "8",
    "-colors",
    "64",
    picture,
  ]);
  process.stdout.write(`${status === 0 ? "taken" : "failed"}: docs/screenshots/${name}.png\n`);
};
const inOffice = async (name, file, cwd) => {
  if (!isWanted(name)) return;
  const office = spawn(
    "soffice",
    ["--norestore", "--nologo", `-env:UserInstallation=file://${join(folder, "office")}`, "--calc", file],
    { cwd, env: { ...environment, DISPLAY: display }, stdio: "ignore", detached: true },
  );
  await pause(25_000);
  takePicture(name);
  process.kill(-office.pid);
  await pause(1000);
};
await inOffice("gap-sheet", "filled.xlsx", asked);
sh("lexicant build merrowgate", sent);
await inOffice("workbook", "out/merrowgate/merrowgate-beekeeping.xlsx", sent);
for (const [name, [cwd, ...commands]] of Object.entries(shots)) {
  if (!isWanted(name)) continue;
  const isQuiet = (command) => command.startsWith("rm ") || command.startsWith("node ");
  const shown = commands.filter((command) => !isQuiet(command));
  const quiet = commands.filter(isQuiet);
  for (const command of quiet) sh(command, cwd);
  const script = shown
    .map(
      (command) =>
        `printf '\\033[2m$ %s\\033[0m\\n' ${JSON.stringify(command).replaceAll("$", "\\$")}; ${command} 2>&1`,
    )
    .join("; ");
  const done = join(folder, `${name}.done`);
  const rows = Math.min(ROWS, Math.max(8, await linesOf(shown, cwd)));
  const terminal = spawn(
    "xterm",
    [
      "-geometry",
      `${COLUMNS}x${rows}+0+0`,
      "-fa",
      "DejaVu Sans Mono",
      "-fs",
      "12",
      "-bg",
      "#fbfaf7",
      "-fg",
      "#222222",
      "-e",
      "sh",
      "-c",
      `${script}; touch ${done}; sleep 30`,
    ],
    { cwd, env: { ...shooting, DISPLAY: display }, stdio: "ignore" },
  );
  for (let waited = 0; waited < 150 && spawnSync("test", ["-e", done]).status !== 0; waited++)
    await pause(100);
  await pause(500);
  takePicture(name);
  terminal.kill();
}
server.kill();
sandbox.kill();
rmSync(folder, { recursive: true, force: true });
