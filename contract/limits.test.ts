// Limits as the schemas themselves set them.
import { expect, test } from "@jest/globals";
import { LicenceRequest } from "./clearance.ts";
import { JobRequest } from "./jobs.ts";
import { limitsOf } from "./limits.ts";
import { ProgramNames } from "./programs.ts";
import { SettingsChange } from "./settings.ts";

test("the limits of a field are read from its schema, under null, default and alternatives", () => {
  expect(limitsOf(JobRequest, "name")).toEqual({ longest: 120 });
  expect(limitsOf(SettingsChange, "limits.depth")).toEqual({ least: 1, most: 6 });
  expect(limitsOf(LicenceRequest, "seats")).toEqual({ least: 1, most: 1_000_000 });
  expect(limitsOf(LicenceRequest, "term.days")).toEqual({ least: 1, most: 36_500 });
});
test("each entry of a record has the limits of its values", () => {
  expect(limitsOf(ProgramNames, "names.design")).toEqual({ longest: 60 });
});
test("a field without limits has none", () => {
  expect(limitsOf(LicenceRequest, "term.until")).toEqual({});
  expect(limitsOf(LicenceRequest, "nothing.here")).toEqual({});
  expect(limitsOf(LicenceRequest, "kind")).toEqual({});
});
