"use strict";
const search = document.getElementById("search");
const state = document.getElementById("state");
const count = document.getElementById("count");
const rows = [...document.querySelectorAll("tbody tr")];
const texts = rows.map((row) => row.textContent.toLowerCase());

function filter() {
  const words = search.value.toLowerCase().split(/\s+/).filter(Boolean);
  let shown = 0;
  rows.forEach((row, i) => {
    const fits = words.every((word) => texts[i].includes(word)) &&
      (state.value === "" || row.querySelector(`td.${state.value}:not([hidden])`) !== null);
    row.hidden = !fits;
    if (fits) shown++;
  });
  count.textContent = shown === 1 ? "1 key" : `${shown} keys`;
}

for (const box of document.querySelectorAll("#cultures input")) {
  box.addEventListener("change", () => {
    for (const cell of document.querySelectorAll(`[data-culture="${box.value}"]`)) cell.hidden = !box.checked;
    filter();
  });
}
search.addEventListener("input", filter);
state.addEventListener("change", filter);
filter();
