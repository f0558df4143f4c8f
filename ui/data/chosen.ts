// What is to be known of several families before something is done with them.
import { useEffect, useState } from "react";
import { ChosenFamilies } from "../../contract/families.ts";
import { send } from "./api.ts";

/** Asked for while `open`; undefined until it is there. */
export function useChosenFamilies(ids: readonly number[], open: boolean): ChosenFamilies | undefined {
  const [known, setKnown] = useState<{ of: readonly number[]; chosen: ChosenFamilies }>();
  useEffect(() => {
    if (!open || ids.length === 0) return;
    let wanted = true;
    void send("POST", "/families/chosen", ChosenFamilies, { ids: [...ids] }).then((chosen) => wanted && setKnown({ of: ids, chosen }));
    return () => {
      wanted = false;
    };
  }, [ids, open]);
  return known?.of === ids ? known.chosen : undefined;
}
