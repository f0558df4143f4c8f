import { useNumberParam } from "../../../ui/parts/params.ts";
import { CellScreen } from "../../../ui/screens/sightings/CellScreen.tsx";

export default function Cell() {
  const style = useNumberParam("style") ?? 0;
  const program = useNumberParam("program") ?? 0;
  return <CellScreen key={`${style}/${program}`} styleId={style} programId={program} />;
}
