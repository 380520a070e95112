import { CultureSwitch } from "../gen/typescript/cultureSwitch.js";
import { WatchText } from "../gen/typescript/watchText.js";
import { Wording } from "../gen/typescript/wording.js";

declare const process: { argv: string[] };
declare const console: { log(text: string): void };
declare const setTimeout: (run: () => void, pause: number) => void;

/** A boarding desk in a terminal: a screenful of texts, in one culture after another while it runs. */
const pause = Number(process.argv[2] ?? "700");
const cultures = new CultureSwitch();
const wording = new Wording(cultures);
const watch = new WatchText(cultures);

function show(): void {
  console.log(`[${cultures.current} ${cultures.direction}] ${cultures.displayName(cultures.current)}`);
  console.log(`  ${wording.boardingTitle()}`);
  console.log(`  ${wording.boardingGreeting("Runa")}`);
  console.log(`  ${wording.bookingCountPassengers(2)}, ${wording.bookingCountBicycles(5)}`);
  console.log(`  ${wording.delayTitle()}: ${wording.delayReason()}`);
  console.log(`  ${watch.watchTitle()} - ${watch.watchLate()}`);
  console.log(`  < ${wording.actionBack()}   ${wording.actionNext()} >`);
}

show();
const stop = cultures.listen(show);
for (const culture of cultures.supported) {
  cultures.choose(culture);
  await new Promise<void>((resume) => setTimeout(resume, pause));
}
stop();
export {};
