/** Attached to a box without padding, tells its width and height at once and whenever they change, pixels. */
export const sized =
  (tell: (width: number, height: number) => void) =>
  (box: Element): (() => void) => {
    // The observer tells in the next frame: what is drawn to measure would come one later.
    tell(box.clientWidth, box.clientHeight);
    const observer = new ResizeObserver(([entry]) => {
      if (entry) tell(entry.contentRect.width, entry.contentRect.height);
    });
    observer.observe(box);
    return () => observer.disconnect();
  };
