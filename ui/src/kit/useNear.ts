/** What lies far down a long list is drawn when one comes near it. */
import { useEffect, useRef, useState, type RefObject } from "react";

/** Some dozens of entries: short lists are drawn whole. */
const NEAR = "6000px 0px";

/** Of each list, who is told when which of its elements comes near. */
const watches = new WeakMap<Element, { observer: IntersectionObserver; told: Map<Element, () => void> }>();

function watchOf(list: Element) {
  const known = watches.get(list);
  if (known) return known;
  const told = new Map<Element, () => void>();
  const observer = new IntersectionObserver(
    (entries) => {
      for (const { target, isIntersecting } of entries) if (isIntersecting) told.get(target)?.();
    },
    { root: list, rootMargin: NEAR },
  );
  const watch = { observer, told };
  watches.set(list, watch);
  return watch;
}

/** Whether an element is, or was, near what is seen of the list that scrolls it, which a selector finds around it. */
export function useNear<Item extends Element>(list: string): { item: RefObject<Item | null>; near: boolean } {
  const item = useRef<Item>(null);
  const [near, setNear] = useState(false);
  useEffect(() => {
    const element = item.current;
    const around = element?.closest(list);
    if (near || !element || !around) return;
    const { observer, told } = watchOf(around);
    told.set(element, () => setNear(true));
    observer.observe(element);
    return () => {
      told.delete(element);
      observer.unobserve(element);
    };
  }, [near, list]);
  return { item, near };
}
