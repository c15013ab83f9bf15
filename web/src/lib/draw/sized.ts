/** Attached to a box, tells its width and height at first and whenever they change, pixels. */
export const sized =
  (tell: (width: number, height: number) => void) =>
  (box: Element): (() => void) => {
    const observer = new ResizeObserver(([entry]) => {
      if (entry) tell(entry.contentRect.width, entry.contentRect.height);
    });
    observer.observe(box);
    return () => observer.disconnect();
  };
