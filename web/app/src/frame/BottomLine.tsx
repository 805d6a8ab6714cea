import type { ReactNode } from "react";

/** The line at the foot of every screen: its live figures at the left, its state or keys at the right. */
export function BottomLine({ children, right }: { children: ReactNode; right?: ReactNode }) {
  return (
    <footer className="flex h-[30px] shrink-0 items-center gap-6 overflow-x-auto border-t border-line bg-paper px-4 text-xs whitespace-nowrap text-soft [&_b]:font-semibold [&_b]:text-ink">
      {children}
      <span className="ml-auto">{right}</span>
    </footer>
  );
}
