// Whether the page is used by touch alone: nothing can be dragged onto it from elsewhere.
import { useState } from "react";

export const useTouch = (): boolean =>
  useState(
    () => typeof matchMedia === "function" && matchMedia("(pointer: coarse)").matches && !matchMedia("(any-pointer: fine)").matches,
  )[0];
