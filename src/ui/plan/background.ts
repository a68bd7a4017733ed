/** The picture under a layout, decoded once. */
import { useEffect, useState } from 'react';
import type { LayoutRow } from '@/core/plan/rows';
import { useShow } from '../state/store';

/** A drawing that lies under a plan. */
export interface Background {
  image: HTMLImageElement;
  x: number;
  y: number;
  width_m: number;
  height_m: number;
  opacity: number;
}

/** That of a layout, once it has come. */
export function useBackground(layout: LayoutRow | undefined): Background | undefined {
  const show = useShow();
  const under = layout?.background;
  const data = under ? show.pictures.get(under.picture)?.data : undefined;
  const [image, setImage] = useState<HTMLImageElement | null>(null);
  useEffect(() => {
    if (!data) {
      setImage(null);
      return;
    }
    const next = new Image();
    let stopped = false;
    next.onload = () => !stopped && setImage(next);
    next.src = data;
    return () => {
      stopped = true;
    };
  }, [data]);
  return under && image && data
    ? {
        ...under,
        image,
        height_m: under.width_m * (image.naturalHeight / Math.max(1, image.naturalWidth)),
      }
    : undefined;
}
