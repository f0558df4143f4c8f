import { Nothing } from "../ui/parts/Nothing.tsx";

export default function NotFound() {
  return <Nothing words="There is nothing at this address. The tabs lead everywhere." />;
}
