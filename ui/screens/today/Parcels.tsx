// Parcels on Today: those that wait, shelved all at once or those that are chosen; and those already shelved.
import { useRouter } from "expo-router";
import { useCallback, useEffect, useState } from "react";
import { Pressable, View } from "react-native";
import { ParcelIds, ShelveResult } from "../../../contract/parcels.ts";
import { count } from "../../../core/words/words.ts";
import { Done, get, send } from "../../data/api.ts";
import { useChoosing } from "../../data/choosing.ts";
import { useParcels, useShelvable } from "../../data/hooks.ts";
import { offerUndo } from "../../data/undo.ts";
import { useAction } from "../../data/useAction.ts";
import { Button } from "../../parts/Button.tsx";
import { ChooseBar } from "../../parts/ChooseBar.tsx";
import { Drawer, DrawerRow } from "../../parts/Drawer.tsx";
import { LibraryBig, ListChecks, Trash2 } from "../../parts/icons.ts";
import { ApiProblemNote } from "../../parts/Status.tsx";
import { Body } from "../../parts/Text.tsx";
import { useChoosingHands } from "../../web/useChoosingHands.ts";
import { ParcelRow } from "../parcels/ParcelRow.tsx";
import { SAY } from "../../sentences/today/today.ts";

/** So many rows are shown before somebody asks for more. */
export const SHOWN_AT_FIRST = 20;
const MORE = 100;
/** With this many something is gained by choosing. */
const WORTH_CHOOSING = 2;

/** Shelves parcels; says so with a way back and the way on. */
function useShelving(onDone: () => void) {
  const router = useRouter();
  const { put } = useChoosing("families");
  return useAction(
    useCallback(
      async (ids: readonly number[]) => {
        const { shelved, parcels, familyIds, historyId } = await send("POST", "/parcels/shelve", ShelveResult, { ids });
        onDone();
        offerUndo(
          SAY.shelvedOfFamilyIdsShelvedFrom(shelved, familyIds.length, parcels),
          historyId === null ? null : () => send("POST", `/history/${historyId}/undo`, Done),
          {
            label: SAY.placeThem,
            go: () => {
              put(familyIds.map(String));
              router.push("/families?sort=newest");
            },
          },
        );
      },
      [onDone, put, router],
    ),
  );
}

function More({ more, onPress }: { more: number; onPress: () => void }) {
  if (more <= 0) return null;
  return (
    <Pressable
      role="button"
      onPress={onPress}
      className="min-h-[48px] justify-center border-t border-edge px-3 active:opacity-60"
      testID="more-parcels"
    >
      <Body className="underline">{count(more, "more parcel")}</Body>
    </Pressable>
  );
}

/** What arrived and waits for somebody. */
export function Arrived() {
  const [shown, setShown] = useState(SHOWN_AT_FIRST);
  const page = useParcels(true, shown).data;
  const shelvable = useShelvable().data?.ids ?? [];
  const choosing = useChoosing("parcels");
  const { end, put } = choosing;
  const shelve = useShelving(end);
  const order = useCallback(async () => (page?.parcels ?? []).map((parcel) => String(parcel.id)), [page]);
  const all = useCallback(() => put((page?.parcels ?? []).map((parcel) => String(parcel.id))), [page, put]);
  const list = useChoosingHands({ choosing, order, all });
  if (!page || page.total === 0) return null;
  return (
    <View ref={list}>
      <Drawer label={SAY.inShelveWhatArrived} note={count(page.total, "parcel")} testID="arrived">
        {shelve.problem ? <ApiProblemNote problem={shelve.problem} /> : null}
        {page.total >= WORTH_CHOOSING && !choosing.chosen ? (
          <DrawerRow first className="flex-row flex-wrap gap-2">
            {shelvable.length >= WORTH_CHOOSING ? (
              <Button
                strong
                icon={LibraryBig}
                label={SAY.shelveAllShelvable(shelvable.length)}
                busy={shelve.busy}
                onPress={() => shelve.run(shelvable)}
                className="flex-1"
                testID="shelve-all"
              />
            ) : null}
            <Button
              icon={ListChecks}
              label={SAY.choose}
              hint={SAY.severalParcels}
              onPress={() => choosing.begin()}
              byKey="choose"
              testID="choose-parcels"
            />
          </DrawerRow>
        ) : null}
        {page.parcels.map((parcel, i) => (
          <ParcelRow
            key={parcel.id}
            parcel={parcel}
            first={i === 0 && page.total < WORTH_CHOOSING}
            picked={choosing.chosen ? choosing.has(String(parcel.id)) : undefined}
          />
        ))}
        <More more={page.total - page.parcels.length} onPress={() => setShown(shown + MORE)} />
      </Drawer>
    </View>
  );
}

export function Shelved() {
  const [shown, setShown] = useState(SHOWN_AT_FIRST);
  const page = useParcels(false, shown).data;
  if (!page || page.total === 0) return null;
  return (
    <Drawer label={SAY.parcelsAlreadyShelved} note={count(page.total, "parcel")}>
      {page.parcels.map((parcel, i) => (
        <ParcelRow key={parcel.id} parcel={parcel} first={i === 0} />
      ))}
      <More more={page.total - page.parcels.length} onPress={() => setShown(shown + MORE)} />
    </Drawer>
  );
}

/** What can be done with the parcels that are chosen. */
export function ParcelActs() {
  const choosing = useChoosing("parcels");
  const { chosen, end, put } = choosing;
  const shelve = useShelving(end);
  const remove = useAction(
    useCallback(
      async (ids: readonly number[]) => {
        for (const id of ids) await send("POST", `/parcels/${id}/remove`, Done);
        end();
        offerUndo(SAY.idsRemoved(ids.length), async () => {
          for (const id of ids) await send("POST", `/parcels/${id}/bring-back`, Done);
        });
      },
      [end],
    ),
  );
  const [total, setTotal] = useState<number>();
  const choosingNow = chosen !== null;
  useEffect(() => {
    if (choosingNow) void get("/parcels/shelvable", ParcelIds).then(({ ids }) => setTotal(ids.length));
  }, [choosingNow]);
  if (!chosen) return null;
  const ids = [...chosen.keys].map(Number);
  const problem = shelve.problem ?? remove.problem;
  return (
    <ChooseBar
      words={ids.length === 0 ? SAY.chooseParcels : SAY.idsChosen(ids.length)}
      all={
        total !== undefined && total > ids.length
          ? {
              label: SAY.allTotalToShelve(total),
              onPress: () => void get("/parcels/shelvable", ParcelIds).then(({ ids: every }) => put(every.map(String))),
            }
          : undefined
      }
      onEnd={end}
    >
      {problem ? <ApiProblemNote problem={problem} /> : null}
      <Button
        strong
        icon={LibraryBig}
        label={SAY.shelve}
        disabled={ids.length === 0 || remove.busy}
        busy={shelve.busy}
        onPress={() => shelve.run(ids)}
        className="flex-1"
        testID="shelve-chosen"
      />
      <Button
        icon={Trash2}
        label={SAY.remove}
        disabled={ids.length === 0 || shelve.busy}
        busy={remove.busy}
        onPress={() => remove.run(ids)}
        className="flex-1"
        testID="remove-chosen"
      />
    </ChooseBar>
  );
}
