import { expect, test } from "vitest";
import { formatter, hertz, milliamps } from "./units";

test("axes are in the user's units", () => {
  const feet = formatter("imperial");
  expect(feet.toUnit(3.048)).toBeCloseTo(10);
  expect(feet.fromUnit(10)).toBeCloseTo(3.048);
  expect(feet.distanceUnit).toBe("ft");
  expect(formatter("metric").toUnit(3)).toBe(3);
});

test("currents and frequencies carry their unit", () => {
  expect(milliamps(0.071)).toMatch(/^71(\.0)?.mA$/);
  expect(hertz(8960)).toMatch(/^8\.96.kHz$/);
});
