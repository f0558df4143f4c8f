// Recording a licence: what it allows, what it cost, when it ends.
import { useRouter } from "expo-router";
import { useCallback, useState } from "react";
import { View } from "react-native";
import { FamilyClearance, LicenceRequest, type LicenceKind, type Use } from "../../../contract/clearance.ts";
import { USE_WORDS, USES } from "../../../core/clearance/uses.ts";
import { digitsOf, minorOf } from "../../../core/words/money.ts";
import { send } from "../../data/api.ts";
import { useClearance } from "../../data/hooks.ts";
import { useAction } from "../../data/useAction.ts";
import { Button } from "../../parts/Button.tsx";
import { Choice } from "../../parts/Choice.tsx";
import { Drawer, DrawerRow } from "../../parts/Drawer.tsx";
import { DayField, NumberField, TextField, useContractForm } from "../../parts/form.tsx";
import { Screen } from "../../parts/Screen.tsx";
import { ApiProblemNote } from "../../parts/Status.tsx";
import { Small } from "../../parts/Text.tsx";
import { Tick } from "../../parts/Tick.tsx";
import { SAY } from "../../sentences/clearance/clearance.ts";

const KINDS: Record<LicenceKind, string> = {
  commercial: SAY.commercial,
  personal: SAY.personal,
  "time-limited": SAY.withAnEnd,
  other: SAY.somethingElse,
};
const TERMS = { none: SAY.withoutEnd, days: SAY.aNumberOfDaysFrom, until: SAY.untilADay };

/** What usually comes with each kind; a person sets it right. Common practice, no source. */
const USUAL: Record<LicenceKind, readonly Use[]> = {
  commercial: ["own", "given-away", "sold", "client"],
  personal: ["own"],
  "time-limited": ["own"],
  other: [],
};

const answersOf = (uses: readonly Use[], credit: boolean): LicenceRequest["answers"] =>
  Object.fromEntries(uses.map((use) => [use, credit ? "credit" : "yes"]));
const EMPTY: LicenceRequest = {
  kind: "commercial",
  answers: answersOf(USUAL.commercial, false),
  seats: 1,
  boughtOn: null,
  priceMinor: null,
  currency: "EUR",
  orderNumber: "",
  note: "",
  term: null,
};
const TERM_OF: Record<keyof typeof TERMS, LicenceRequest["term"]> = { none: null, days: { days: 180 }, until: { until: "" } };
const termOf = (term: LicenceRequest["term"]): keyof typeof TERMS => (term === null ? "none" : "days" in term ? "days" : "until");

export function LicenceScreen({ familyId }: { familyId: number }) {
  const clearance = useClearance(familyId);
  const router = useRouter();
  const form = useContractForm(LicenceRequest, EMPTY);
  const [credit, setCredit] = useState(false);
  const { kind, answers, term, priceMinor, currency } = form.watch();
  const uses = USES.filter((use) => answers[use] !== undefined);
  const allow = (some: readonly Use[], asksCredit = credit) => form.setValue("answers", answersOf(some, asksCredit));
  const setTerm = (next: keyof typeof TERMS) => {
    form.clearErrors("term");
    form.setValue("term", TERM_OF[next]);
  };
  const save = useAction(
    useCallback(
      async (request: LicenceRequest) => {
        const { priceMinor: price } = request;
        const sent: LicenceRequest = { ...request, currency: price === null ? "" : request.currency };
        await send("POST", `/families/${familyId}/licences`, FamilyClearance, sent);
        router.replace(`/family/${familyId}`);
      },
      [familyId, router],
    ),
  );
  return (
    <Screen
      title={SAY.recordALicence}
      note={clearance.data ? SAY.forFamilyNameItStandsBeside(clearance.data.familyName) : undefined}
      back={`/family/${familyId}`}
      testID="licence-screen"
      action={
        <Button strong label={SAY.recordIt} busy={save.busy} onPress={() => void form.handleSubmit(save.run)()} testID="save-licence" />
      }
    >
      {save.problem ? <ApiProblemNote problem={save.problem} /> : null}
      <Drawer label={SAY.whatItAllows}>
        <DrawerRow first>
          <View className="flex-row flex-wrap items-center gap-3">
            <Small className="text-ink">{SAY.kind}</Small>
            <Choice
              label={SAY.kindOfLicence}
              words={KINDS}
              value={kind}
              onChange={(next) => {
                if (!next) return;
                form.setValue("kind", next);
                allow(USUAL[next]);
                if (next === "time-limited") setTerm("days");
              }}
              testID="licence-kind"
            />
          </View>
        </DrawerRow>
        {USES.map((use) => (
          <Tick
            key={use}
            label={USE_WORDS[use]}
            on={uses.includes(use)}
            onChange={(on) => allow(on ? [...uses, use] : uses.filter((one) => one !== use))}
            testID={`licence-use-${use}`}
          />
        ))}
        <Tick
          label={SAY.itAsksForACredit}
          on={credit}
          onChange={(on) => {
            setCredit(on);
            allow(uses, on);
          }}
          testID="licence-credit"
        />
      </Drawer>
      <Drawer label={SAY.howLongItLasts}>
        <DrawerRow first>
          <View className="mb-3">
            <Choice
              label={SAY.howLongItLasts}
              words={TERMS}
              value={termOf(term)}
              onChange={(next) => next && setTerm(next)}
              testID="licence-term"
            />
          </View>
          {term !== null && "days" in term ? (
            <NumberField form={form} name="term.days" label={SAY.daysTheDayOfPlacing} testID="licence-days" />
          ) : null}
          {term !== null && "until" in term ? (
            <DayField form={form} name="term.until" label={SAY.lastDayItMayBe} testID="licence-until" />
          ) : null}
        </DrawerRow>
      </Drawer>
      <Drawer label={SAY.forTheRecords}>
        <DrawerRow first>
          <NumberField form={form} name="seats" label={SAY.seats} hint={SAY.leaveItEmptyIfYou} optional testID="licence-seats" />
          <DayField form={form} name="boughtOn" label={SAY.boughtOn} optional testID="licence-boughtOn" />
          <View className="flex-row gap-3">
            <NumberField
              form={form}
              name="priceMinor"
              label={SAY.price}
              optional
              write={(minor) => (minor / 10 ** digitsOf(currency)).toFixed(digitsOf(currency))}
              read={(text) => minorOf(text, currency)}
              bounds={false}
              className="flex-1"
              testID="licence-price"
            />
            <TextField
              form={form}
              name="currency"
              label={SAY.currency}
              shape={(text) => text.trim().toUpperCase()}
              onChanged={(next) => {
                // The sum stays as it was written; what it comes to in smallest units may not.
                if (priceMinor !== null)
                  form.setValue("priceMinor", minorOf((priceMinor / 10 ** digitsOf(currency)).toFixed(digitsOf(currency)), next));
              }}
              className="w-28"
              testID="licence-currency"
            />
          </View>
          <TextField form={form} name="orderNumber" label={SAY.orderNumber} testID="licence-orderNumber" />
          <TextField form={form} name="note" label={SAY.note} lines={3} testID="licence-note" />
          <Small>{SAY.theReceiptCanBeAdded}</Small>
        </DrawerRow>
      </Drawer>
    </Screen>
  );
}
