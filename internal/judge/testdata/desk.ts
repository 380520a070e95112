import { CultureSwitch } from "./app/cultureSwitch.js";
import { Wording } from "./app/wording.js";
import { CultureSwitch as NastySwitch } from "./nasty/cultureSwitch.js";
import { Wording as NastyWording } from "./nasty/wording.js";

import { CultureStore } from "./app/cultureStore.js";
import { wordingFailures } from "./app/wordingCases.js";
import { wordingFailures as choicesFailures } from "./choices/wordingCases.js";
import { wordingFailures as nastyFailures } from "./nasty/wordingCases.js";

declare const console: { log(text: string): void };
declare const process: {
  argv: string[];
  memoryUsage(): { heapUsed: number };
  exit(): never;
  getBuiltinModule(name: "node:fs"): { existsSync(path: string): boolean; readFileSync(path: string, encoding: string): string; writeFileSync(path: string, text: string): void };
};
declare const gc: () => void;

const { existsSync, readFileSync, writeFileSync } = process.getBuiltinModule("node:fs");

/** Keeps the choice in a file. */
const fileStore = {
  load: () => (existsSync("choice.txt") ? readFileSync("choice.txt", "utf8") : null),
  save: (culture: string) => writeFileSync("choice.txt", culture),
};
if (process.argv.length > 2) {
  // started again: what was chosen before is chosen now
  const again = new CultureSwitch();
  again.remember(fileStore);
  console.log(`again ${again.current}`);
  process.exit();
}

/** What a person chose is kept, and what the device asks for is not. */
function kept(): void {
  const memory = (culture: string) => {
    const store = { saved: culture, load: () => store.saved, save: (chosen: string) => void (store.saved = chosen) };
    return store;
  };
  const store = memory("fr-CA");
  const one = new CultureSwitch();
  let told = `${one.follow(["ja"])} `;
  one.remember(store);
  told += `${one.current} ${store.saved} ${one.follow(["pl"])} `;
  one.choose("fr");
  told += `${store.saved} `;
  one.clear();
  told += `${one.current}${store.saved} ${one.follow("de;q=0.5, fi, *;q=0.1")}`;
  for (const saved of ["iw", "xx", "sh"]) {
    const again = new CultureSwitch();
    again.remember(memory(saved));
    told += ` ${again.current}`;
  }
  console.log(told);
  one.remember({
    load: () => null,
    save: () => {
      throw new Error("unsaved");
    },
  });
  one.listen(() => {
    throw new Error("first");
  });
  one.listen((culture) => console.log(`still ${culture}`));
  try {
    one.choose("ar");
  } catch (error) {
    console.log(`caught ${(error as Error).message} ${one.current}`);
  }
}

// A boarding desk that switches through cultures while it runs.
const cultures = new CultureSwitch();
const wording = new Wording(cultures);
const stop = cultures.listen((culture) => console.log(`heard ${culture}: ${wording.boardingTitle()}`));
for (const culture of ["en", "de", "de-CH", "pl", "he", "ja", "fr"]) {
  cultures.choose(culture);
  console.log(
    `${cultures.current} ${cultures.direction} ${cultures.displayName(culture)} | ${wording.boardingGreeting("Runa")}` +
      ` | ${wording.bookingCountBicycles(1)} | ${wording.bookingCountBicycles(3)} | ${wording.bookingCountBicycles(5)}`,
  );
}
console.log(`${cultures.choose("xx")} ${cultures.current}`);
stop();
cultures.clear();
console.log(
  `${cultures.follow(["fr-CA", "en"])} ${cultures.follow(["zh-TW", "de-AT"])} ${cultures.follow(["pt-PT"])} ${cultures.follow(["xx"])}`,
);
console.log(
  cultures.within("de", () => `${wording.boardingTitle()} ${cultures.within("fi", () => wording.boardingTitle())} ${wording.boardingTitle()}`) +
    " " +
    wording.boardingTitle(),
);
// A listener that switches on: the later ones hear the newer culture once.
cultures.listen((culture) => {
  console.log(`first ${culture}`);
  if (culture === "fi") {
    cultures.choose("pl");
  }
});
cultures.listen((culture) => console.log(`second ${culture}`));
cultures.choose("fi");
kept();
let saved = "de";
const fresh = new CultureSwitch();
fresh.remember({
  load: () => saved,
  save: (culture) => {
    saved = culture;
  },
});
fresh.choose("he");
console.log(saved);
const shown = new Wording(fresh);
fresh.beginAudit();
shown.boardingTitle();
shown.boardingGreeting("Runa");
console.log(`[${fresh.audit().join(", ")}]`);
fresh.choose("pl");
shown.boardingTitle();
fresh.within("fi", () => shown.actionBack());
console.log(`[${fresh.audit().join(", ")}]`);
const other = new NastySwitch();
const text = new NastyWording(other);
console.log(`${text.classText()} ${text.twoWords()} ${text.twoWords2()} ${text.text9lives()} ${text.injection()}`);
console.log(`${text.toStringText({ arg1: "a", arg2: 1234, arg3: 1234.5 })} | ${text.same({ newValue: "n", classValue: "c" })}`);
other.choose("ar");
console.log(
  [1, 2].map((n) => text.forms(n) + " ").join("") +
    [0, 3, 11, 100].map((n) => text.forms(n).slice(0, 1)).join("") +
    ` ${text.twoWords()} ${text.injection().length}`,
);
other.clear();
console.log([["sr-RS"], ["sr-Latn-RS"], ["zh-TW"], ["zh-CN", "ar-EG"], []].map((wanted) => other.follow(wanted)).join(" "));
// Texts are loaded while it runs; what is no message falls back.
const live = new CultureSwitch();
const said = new Wording(live);
const told = live.listen((culture) => console.log(`loaded ${culture}: ${said.boardingTitle()}`));
live.choose("de");
const bundles = [
  "nonsense",
  "{\"culture\":\"de\",\"syntax\":\"other\",\"texts\":{}}",
  "{\"culture\":\"de\",\"texts\":{\"boarding_title\":\"x\",\"boarding_greeting\":\"Hallo {name\"}}",
  "{\"culture\":\"nl\",\"name\":\"Nederlands\",\"direction\":\"ltr\",\"texts\":{\"boarding_title\":\"Instapkaart\",\"booking_count_bicycles\":\"{count, plural, one {# fiets} other {# fietsen}}\"},\"plurals\":{\"one\":\"i = 1 and v = 0\"}}",
  "{\"culture\": \"de\", \"texts\": {\"boarding_title\": \"Neue \\\"Karte\\\" \\u00e4\"}, \"more\": [1, {\"a\": null}]}",
];
console.log(`${bundles.map((bundle) => (live.load(bundle) === null ? "taken" : "refused")).join(" ")} | ${said.boardingGreeting("Runa")}`);
live.choose("nl");
console.log(
  `${live.displayName("nl")} ${said.bookingCountBicycles(1)} ${said.bookingCountBicycles(3)} ${said.boardingGreeting("Runa")}` +
    ` ${live.supported.length} ${live.within("fr-CA", (scope) => scope.current)}`,
);
told();
other.reportMissing((culture, key) => console.log(`missing ${culture} ${key}`));
other.choose("ar");
text.twoWords();
text.classText();
text.classText();
// A listener that ends itself.
const once = live.listen((culture) => {
  console.log(`once ${culture}`);
  once();
});
const twice = live.listen((culture) => console.log(`twice ${culture}`));
live.choose("fi");
live.choose("pl");
twice();
gc();
const before = process.memoryUsage().heapUsed;
for (let i = 0; i < 100_000; i++) {
  live.listen((culture) => console.log(culture))();
}
gc();
const grown = process.memoryUsage().heapUsed - before;
console.log(grown < 1 << 20 ? "flat" : `grown by ${grown}`);
// Tasks that wait in between stay in their culture.
const task = async (culture: "de" | "fi"): Promise<string> =>
  live.within(culture, async (scope) => {
    for (let n = 0; n < 100; n++) {
      await null;
      if (scope.current + scope.within("he", (inner) => inner.direction) + scope.current !== `${culture}rtl${culture}`) {
        return "wrong";
      }
    }
    return scope.current;
  });
void Promise.all([task("de"), task("fi")]).then((right) => {
  console.log(right.join(" "));
  console.log(`${live.within("de", () => said.goneGreeting("Runa"))} | ${live.within("en", () => said.goneGreeting("Runa"))}`);
  const store = new CultureStore(live);
  const end = store.subscribe((state) => {
    if (state.revision > 0) {
      console.log(`bound ${state.culture} ${said.boardingTitle()}`);
    }
  });
  live.choose("he");
  end();
  store.close();
  console.log(`cases ${wordingFailures().length} ${nastyFailures().length} ${choicesFailures().length}`);
  live.remember(fileStore);
  live.choose("ja");
});
