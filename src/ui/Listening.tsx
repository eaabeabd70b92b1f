import { type ReactNode, useEffect, useState } from "react";

/**
 * A part of a page that can be used only once it listens. What is ticked or typed in what the server drew, before
 * the browser has taken it over, would stand there and not be known: a word meant for one would go to all.
 */
export function Listening({ className = "", children }: { className?: string; children: ReactNode }) {
  const [isReady, setReady] = useState(false);
  useEffect(() => setReady(true), []);
  return (
    <fieldset disabled={!isReady} data-ready={isReady} className={`min-w-0 ${className}`}>
      {children}
    </fieldset>
  );
}
