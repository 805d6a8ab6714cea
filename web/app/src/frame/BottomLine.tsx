import type { ReactNode } from "react";

/** The line at the foot of every screen: its live figures at the left, its state or keys at the right. */
export function BottomLine({ children, right }: { children: ReactNode; right?: ReactNode }) {
  return (
    <footer className="flex min-h-[30px] shrink-0 flex-wrap items-center gap-x-6 border-t border-line bg-paper px-4 text-xs whitespace-nowrap text-soft [&_b]:font-semibold [&_b]:text-ink">
      {children}
      <span className="ml-auto">{right}</span>
    </footer>
  );
}
