// The interface's type: headings, text, small print. Every piece of text on a screen is one of these.
import type { ReactNode } from "react";
import { Text as NativeText } from "react-native";

interface Props {
  children: ReactNode;
  className?: string;
  lines?: number;
  testID?: string;
}

export function Title({ children, className = "", level = 1 }: Props & { level?: 1 | 2 | 3 }) {
  const size = level === 1 ? "text-[30px] leading-9" : level === 2 ? "text-xl" : "text-base";
  return (
    <NativeText role="heading" aria-level={level} className={`font-heading text-ink ${size} ${className}`}>
      {children}
    </NativeText>
  );
}

export function Body({ children, className = "", lines, testID }: Props) {
  return (
    <NativeText testID={testID} numberOfLines={lines} className={`font-text text-base text-ink ${className}`}>
      {children}
    </NativeText>
  );
}

export function Strong({ children, className = "", lines, testID }: Props) {
  return (
    <NativeText testID={testID} numberOfLines={lines} className={`font-strong text-base text-ink ${className}`}>
      {children}
    </NativeText>
  );
}

/** The sentence that says it all, before its details. */
export function Lead({ children, className = "", testID }: Props) {
  return (
    <NativeText testID={testID} className={`font-text text-lg leading-6 text-ink ${className}`}>
      {children}
    </NativeText>
  );
}

/** What is to be found or typed somewhere else, to be read from an arm's length. */
export function Big({ children, testID }: Props) {
  return (
    <NativeText testID={testID} selectable className="font-strong text-[30px] leading-10 text-ink">
      {children}
    </NativeText>
  );
}

export function Small({ children, className = "", lines, testID }: Props) {
  return (
    <NativeText testID={testID} numberOfLines={lines} className={`font-text text-sm text-faded ${className}`}>
      {children}
    </NativeText>
  );
}
