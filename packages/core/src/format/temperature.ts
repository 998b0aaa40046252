// Temperatures are stored in degrees Celsius; Fahrenheit exists at the edge of the screen only.

export type TemperatureUnit = "C" | "F";

/** Celsius to Fahrenheit, exact. */
export const fahrenheitFromCelsius = (tempC: number): number => (tempC * 9) / 5 + 32;

/** Fahrenheit to Celsius, exact. */
export const celsiusFromFahrenheit = (tempF: number): number => ((tempF - 32) * 5) / 9;

/** A temperature difference: 9 C is 16.2 F, without the offset of 32. */
export const fahrenheitSpan = (spanC: number): number => (spanC * 9) / 5;

/** One decimal, with its unit: `23.1 °C` or `73.6 °F`. */
export function formatTemperature(tempC: number, unit: TemperatureUnit): string {
  const value = unit === "C" ? tempC : fahrenheitFromCelsius(tempC);
  return `${value.toFixed(1)} °${unit}`;
}

/** `23.0 ± 0.5 °C`: an uncertainty is a difference, so it is scaled without the offset. */
export function formatTemperatureRange(tempC: number, plusMinusC: number, unit: TemperatureUnit): string {
  const mid = unit === "C" ? tempC : fahrenheitFromCelsius(tempC);
  const half = unit === "C" ? plusMinusC : fahrenheitSpan(plusMinusC);
  return `${mid.toFixed(1)} ± ${half.toFixed(1)} °${unit}`;
}
