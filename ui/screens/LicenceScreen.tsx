// Recording a licence: what it allows, what it cost, when it ends.
import { useRouter } from "expo-router";
import { useCallback, useState } from "react";
import { View } from "react-native";
import { FamilyClearance, type LicenceKind, type LicenceRequest, type Use } from "../../contract/clearance.ts";
import { isDay } from "../../core/clearance/terms.ts";
import { USE_WORDS, USES } from "../../core/clearance/uses.ts";
import { send } from "../data/api.ts";
import { useClearance } from "../data/hooks.ts";
import { useAction } from "../data/useAction.ts";
import { Button } from "../parts/Button.tsx";
import { Choice } from "../parts/Choice.tsx";
import { Drawer, DrawerRow } from "../parts/Drawer.tsx";
import { Field } from "../parts/Field.tsx";
import { Screen } from "../parts/Screen.tsx";
import { ApiProblemNote } from "../parts/Status.tsx";
import { Small } from "../parts/Text.tsx";
import { Tick } from "../parts/Tick.tsx";

const KINDS: Record<LicenceKind, string> = {
  commercial: "Commercial",
  personal: "Personal",
  "time-limited": "With an end",
  other: "Something else",
};
const TERMS = { none: "Without end", days: "So many days from placing", until: "Until a day" };

/** What usually comes with each kind; a person sets it right. Common practice, no source. */
const USUAL: Record<LicenceKind, readonly Use[]> = {
  commercial: ["own", "given-away", "sold", "client"],
  personal: ["own"],
  "time-limited": ["own"],
  other: [],
};

const digitsOf = (currency: string): number => {
  try {
    return new Intl.NumberFormat("en", { style: "currency", currency }).resolvedOptions().maximumFractionDigits ?? 2;
  } catch {
    return 2;
  }
};

interface Form {
  kind: LicenceKind;
  uses: readonly Use[];
  credit: boolean;
  seats: string;
  boughtOn: string;
  price: string;
  currency: string;
  orderNumber: string;
  note: string;
  term: keyof typeof TERMS;
  days: string;
  until: string;
}
const EMPTY: Form = {
  kind: "commercial",
  uses: USUAL.commercial,
  credit: false,
  seats: "1",
  boughtOn: "",
  price: "",
  currency: "EUR",
  orderNumber: "",
  note: "",
  term: "none",
  days: "180",
  until: "",
};

/** What is wrong with each field, as a sentence. */
function problemsOf(form: Form): Partial<Record<keyof Form, string>> {
  const whole = (text: string, most: number) => /^\d+$/.test(text) && Number(text) >= 1 && Number(text) <= most;
  return {
    ...(form.seats !== "" && !whole(form.seats, 1_000_000) ? { seats: "A whole number, or nothing." } : {}),
    ...(form.boughtOn !== "" && !isDay(form.boughtOn) ? { boughtOn: "A day like 2026-04-30, or nothing." } : {}),
    ...(form.price !== "" && !/^\d{1,9}([.,]\d{1,3})?$/.test(form.price) ? { price: "A sum like 18.00, or nothing." } : {}),
    ...(form.price !== "" && !/^[A-Z]{3}$/.test(form.currency) ? { currency: "Three letters, like EUR." } : {}),
    ...(form.term === "days" && !whole(form.days, 36_500) ? { days: "A whole number of days." } : {}),
    ...(form.term === "until" && !isDay(form.until) ? { until: "A day like 2026-12-31." } : {}),
  };
}

function requestOf(form: Form): LicenceRequest {
  const priced = form.price !== "";
  return {
    kind: form.kind,
    answers: Object.fromEntries(form.uses.map((use) => [use, form.credit ? "credit" : "yes"])) as LicenceRequest["answers"],
    seats: form.seats === "" ? null : Number(form.seats),
    boughtOn: form.boughtOn || null,
    priceMinor: priced ? Math.round(Number(form.price.replace(",", ".")) * 10 ** digitsOf(form.currency)) : null,
    currency: priced ? form.currency : "",
    orderNumber: form.orderNumber,
    note: form.note,
    term: form.term === "days" ? { days: Number(form.days) } : form.term === "until" ? { until: form.until } : null,
  };
}

export function LicenceScreen({ familyId }: { familyId: number }) {
  const clearance = useClearance(familyId);
  const router = useRouter();
  const [form, setForm] = useState(EMPTY);
  const set = (part: Partial<Form>) => setForm({ ...form, ...part });
  const problems = problemsOf(form);
  const save = useAction(
    useCallback(
      async (request: LicenceRequest) => {
        await send("POST", `/families/${familyId}/licences`, FamilyClearance, request);
        router.replace(`/family/${familyId}`);
      },
      [familyId, router],
    ),
  );
  const field = (key: "seats" | "boughtOn" | "price" | "currency" | "orderNumber" | "days" | "until", label: string, more: object = {}) => (
    <Field
      label={label}
      value={form[key]}
      onChange={(text) => set({ [key]: text.trim() })}
      problem={problems[key]}
      testID={`licence-${key}`}
      {...more}
    />
  );
  return (
    <Screen
      title="Record a licence"
      note={clearance.data ? `For ${clearance.data.familyName}. It stands beside what its papers say.` : undefined}
      back={`/family/${familyId}`}
      testID="licence-screen"
      action={
        <Button
          strong
          label="Record it"
          busy={save.busy}
          disabled={Object.keys(problems).length > 0}
          onPress={() => save.run(requestOf(form))}
          testID="save-licence"
        />
      }
    >
      {save.problem ? <ApiProblemNote problem={save.problem} /> : null}
      <Drawer label="What it allows">
        <DrawerRow first>
          <View className="flex-row flex-wrap items-center gap-3">
            <Small className="text-ink">Kind</Small>
            <Choice
              label="Kind of licence"
              words={KINDS}
              value={form.kind}
              onChange={(kind) => kind && set({ kind, uses: USUAL[kind], term: kind === "time-limited" ? "days" : form.term })}
              testID="licence-kind"
            />
          </View>
        </DrawerRow>
        {USES.map((use) => (
          <Tick
            key={use}
            label={USE_WORDS[use]}
            on={form.uses.includes(use)}
            onChange={(on) => set({ uses: on ? [...form.uses, use] : form.uses.filter((one) => one !== use) })}
            testID={`licence-use-${use}`}
          />
        ))}
        <Tick label="It asks for a credit line" on={form.credit} onChange={(credit) => set({ credit })} testID="licence-credit" />
      </Drawer>
      <Drawer label="How long it lasts">
        <DrawerRow first>
          <View className="mb-3">
            <Choice
              label="How long it lasts"
              words={TERMS}
              value={form.term}
              onChange={(term) => term && set({ term })}
              testID="licence-term"
            />
          </View>
          {form.term === "days" ? field("days", "Days, the day of placing counted as the first", { numeric: true }) : null}
          {form.term === "until" ? field("until", "Last day it may be used", { placeholder: "2026-12-31" }) : null}
        </DrawerRow>
      </Drawer>
      <Drawer label="For the records">
        <DrawerRow first>
          {field("seats", "Seats", { numeric: true })}
          {field("boughtOn", "Bought on", { placeholder: "2026-04-30" })}
          <View className="flex-row gap-3">
            {field("price", "Price", { numeric: true, className: "flex-1" })}
            {field("currency", "Currency", { className: "w-28" })}
          </View>
          {field("orderNumber", "Order number")}
          <Field label="Note" value={form.note} onChange={(note) => set({ note })} lines={3} testID="licence-note" />
          <Small>The receipt can be added once the licence is recorded.</Small>
        </DrawerRow>
      </Drawer>
    </Screen>
  );
}
