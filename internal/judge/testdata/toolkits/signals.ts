import { effect as preactEffect, signal } from "@preact/signals-core";
import { effect as vueEffect, ref } from "@vue/reactivity";
import { CultureSwitch } from "./cultureSwitch.js";
import { Wording } from "./wording.js";

declare const console: { log(text: string): void };

/** Shows what an effect of a signal library reads, after each change. */
function show(name: string, effect: (run: () => void) => unknown, read: () => void, change: () => void, cultures: CultureSwitch): void {
  const wording = new Wording(cultures);
  const shown: string[] = [];
  cultures.whenRead(read);
  cultures.listen(change);
  effect(() => {
    shown.push(`${cultures.current} ${wording.boardingTitle()}`);
  });
  let untouched = 0;
  effect(() => {
    untouched++;
  });
  cultures.choose("ar");
  cultures.load(JSON.stringify({ culture: "ar", texts: { boarding_title: "x" } }));
  console.log(`${name} ${shown.join(", ")} untouched ${untouched}`);
}

const count = signal(0);
show("preact", preactEffect, () => void count.value, () => void count.value++, new CultureSwitch());
const revision = ref(0);
show("vue", vueEffect, () => void revision.value, () => void revision.value++, new CultureSwitch());
