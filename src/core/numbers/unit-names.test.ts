import { expect, test } from "vitest";
import { unitInWords, unitSymbols } from "./unit-names";
import { readUnit } from "./units";

test.each([
  ["m", "metres"],
  ["km/h", "kilometres per hour"],
  ["m s⁻¹", "metres per second"],
  ["m²", "square metres"],
  ["m^3", "cubic metres"],
  ["nm", "nanometres"],
  ["NM", "nautical miles"],
  ["nautical miles", "nautical miles"],
  ["metres per second", "metres per second"],
  ["kts", "knots"],
  ["mL", "millilitres"],
  ["°C", "degrees Celsius"],
  ["%", "per cent"],
  ["percent", "per cent"],
  ["per cent", "per cent"],
  ["degrees C", "degrees Celsius"],
  ["deg C", "degrees Celsius"],
  ["° C", "degrees Celsius"],
  ["degrees Celsius", "degrees Celsius"],
  ["Celsius", "degrees Celsius"],
  ["degrees F", "degrees Fahrenheit"],
  ["degrees", "degrees"],
])("%s is %s", (unit, words) => expect(unitInWords(unit, false)).toEqual(words));

test.each(["gramm", "blorg", "kmh", "m/s/h", "", "kg·blorg", "mm mm mm!"])("%j is not known", (unit) => {
  expect(unitInWords(unit, false)).toBeNull();
  expect(unitSymbols(unit)).toBeNull();
});

test("what has words can be worked out: the desk and the marking know the same units", () => {
  const bare =
    "m g s l L Pa N J W V A Hz mol bar min h d week ° deg rad ′ ″ °C °F K ha kn kt NM nmi M in ft yd mi lb oz Ω".split(
      " ",
    );
  const prefixed = "Gm Mm km hm dm cm mm um nm pm kg mg hL ml mbar kPa kJ kW mV mA kHz mmol".split(" ");
  for (const unit of [...bare, ...prefixed, "km/h", "m/s", "g/l", "kg m/s²", "W/m^2"]) {
    expect(unitInWords(unit, false), unit).not.toBeNull();
    expect(readUnit(unit).ok, unit).toBe(true);
    expect(readUnit(unitSymbols(unit) ?? "").ok, unit).toBe(true);
  }
});

test("a question may say what a symbol means to it", () => {
  expect(unitInWords("nm", true, { nm: "nauticalmile" })).toEqual("nautical mile");
});
