// Whether there is room for list and detail side by side.
import { useWindowDimensions } from "react-native";

export const useWide = (): boolean => useWindowDimensions().width >= 960;
