export { BenchScreen as default } from "../ui/screens/BenchScreen.tsx";
