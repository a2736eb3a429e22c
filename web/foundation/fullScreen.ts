// The full screen: an element takes it, or gives it back. A browser that refuses is left as it is.

/** Lets an element fill the screen, or ends that where one does. */
export function toggleFullScreen(element: HTMLElement | null): void {
  const changed = document.fullscreenElement ? document.exitFullscreen() : element?.requestFullscreen?.();
  void changed?.catch(() => undefined);
}
