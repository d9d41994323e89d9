import { select } from 'd3-selection';
import { zoom, zoomIdentity, type D3ZoomEvent } from 'd3-zoom';

/** A step of a gesture: what is shown grows by a factor about a point of the window, then moves. */
export interface GestureStep {
  factor: number;
  at: { clientX: number; clientY: number };
  /** CSS pixels. */
  dx: number;
  dy: number;
}

/**
 * Watches an element for wheel, pinch and drag, by mouse or touch. `begins` says whether an event may begin a gesture.
 * Returns how to stop.
 */
export function watchGestures(
  element: HTMLElement,
  begins: (event: MouseEvent | TouchEvent) => boolean,
  step: (step: GestureStep) => void,
): () => void {
  let last = zoomIdentity;
  const behaviour = zoom<HTMLElement, unknown>()
    .filter(begins)
    .on('zoom', ({ transform, sourceEvent }: D3ZoomEvent<HTMLElement, unknown>) => {
      const factor = transform.k / last.k;
      const at = middleOf(sourceEvent as MouseEvent | TouchEvent);
      const { left, top } = element.getBoundingClientRect();
      // What growing about the point leaves to be moved.
      const dx = transform.x - factor * last.x - (1 - factor) * (at.clientX - left);
      const dy = transform.y - factor * last.y - (1 - factor) * (at.clientY - top);
      last = transform;
      step({ factor, at, dx, dy });
    })
    .on('end', () => {
      // Limits are those of the viewer: each gesture starts from the beginning.
      last = zoomIdentity;
      select(element).property('__zoom', zoomIdentity);
    });
  const selection = select(element).call(behaviour).on('dblclick.zoom', null);
  return () => selection.on('.zoom', null);
}

function middleOf(event: MouseEvent | TouchEvent): GestureStep['at'] {
  if (!('touches' in event)) return event;
  const touches = [...event.touches];
  const mean = (pick: (touch: Touch) => number): number =>
    touches.reduce((sum, touch) => sum + pick(touch), 0) / touches.length;
  return { clientX: mean(({ clientX }) => clientX), clientY: mean(({ clientY }) => clientY) };
}
