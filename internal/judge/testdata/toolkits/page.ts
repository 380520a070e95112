import { effect, signal } from "@preact/signals-core";
import { effect as watch, ref } from "@vue/reactivity";
import { CultureStore } from "./cultureStore.js";
import { CultureSwitch } from "./cultureSwitch.js";
import { Wording } from "./wording.js";

// A page whose texts follow the switch by a plain store and by the effects of two
// libraries of signals; what a person did in it stays.
const cultures = new CultureSwitch();
const wording = new Wording(cultures);
const store = new CultureStore(cultures);
const element = (id: string): HTMLElement => document.getElementById(id)!;

const stop = store.subscribe(({ culture, direction }) => {
  document.documentElement.lang = culture;
  document.documentElement.dir = direction;
  element("title").textContent = wording.boardingTitle();
});

const count = signal(0);
const revision = ref(0);
cultures.whenRead(() => {
  void count.value;
  void revision.value;
});
cultures.listen(() => {
  count.value++;
  revision.value++;
});
effect(() => {
  element("greeting").textContent = wording.boardingGreeting("Runa");
});
watch(() => {
  element("passengers").textContent = wording.bookingCountPassengers(3);
});
effect(() => {
  element("menu").textContent = wording.actionBack();
});

const field = element("field") as HTMLInputElement;
field.value = "Runa";
field.focus();
field.setSelectionRange(1, 3);
const list = element("list");
list.innerHTML = "<p>line</p>".repeat(100);
list.scrollTop = 200;

const lines: string[] = [];
const say = (head: string): void => {
  const at = element("title").getBoundingClientRect();
  const side = at.left > document.documentElement.clientWidth - at.right ? "right" : "left";
  lines.push(
    [head, ...["title", "greeting", "passengers", "menu"].map((id) => element(id).textContent), side].join(" | ") +
      ` | ${field.value} ${field.selectionStart}-${field.selectionEnd} ${document.activeElement === field} at ${list.scrollTop}`,
  );
};
for (const culture of ["en", "ar", "de"] as const) {
  cultures.beginAudit();
  cultures.choose(culture);
  say(culture);
  lines.push(`stale: ${cultures.audit().join(", ")}`);
}
cultures.load(JSON.stringify({ culture: "de", texts: { boarding_title: "Neue Karte" } }));
say("loaded");
stop();
cultures.choose("en");
say("ended");
element("said").textContent = lines.join("\n");
