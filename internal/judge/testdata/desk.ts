import { CultureSwitch } from "./app/cultureSwitch.js";
import { Wording } from "./app/wording.js";
import { CultureSwitch as NastySwitch } from "./nasty/cultureSwitch.js";
import { Wording as NastyWording } from "./nasty/wording.js";

declare const console: { log(text: string): void };

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
console.log(`${text.toStringText("a", 1234, 1234.5)} | ${text.same("n", "c")}`);
other.choose("ar");
console.log(
  [1, 2].map((n) => text.forms(n) + " ").join("") +
    [0, 3, 11, 100].map((n) => text.forms(n).slice(0, 1)).join("") +
    ` ${text.twoWords()} ${text.injection().length}`,
);
