"use client";
import { type RefObject, useEffect, useState } from "react";

/** Whether an element is in view of the rows, or will be soon: what is far away need not be drawn at every edit. */
export function useNear(element: RefObject<HTMLElement | null>): boolean {
  const [near, setNear] = useState(false);
  useEffect(() => {
    if (!element.current) return;
    const observer = new IntersectionObserver(([entry]) => setNear(entry?.isIntersecting ?? false), {
      root: document.getElementById("rows"),
      rootMargin: "160px",
    });
    observer.observe(element.current);
    return () => observer.disconnect();
  }, [element]);
  return near;
}
