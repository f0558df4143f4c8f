// What the web target adds to React Native's own props.
import "react-native";

declare module "react-native" {
  interface PressableProps {
    dataSet?: Record<string, string>;
  }
  interface TextInputProps {
    "aria-describedby"?: string;
    dataSet?: Record<string, string>;
  }
  interface ViewProps {
    /** Becomes `data-` attributes of the element. */
    dataSet?: Record<string, string>;
  }
}
