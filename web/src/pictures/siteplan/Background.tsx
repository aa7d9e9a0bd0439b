import { BASE } from "../../api/base";
import type { Schemas } from "../../api/client";
import { type Corner, usePlanView } from "./planView";

type Picture = Schemas["BackgroundView"] | null;

const STRENGTH = { faint: 0.25, half: 0.55, full: 1 } as const;

export const pathOf = (picture: Schemas["BackgroundView"]) => `${BASE}/${picture.path}`;

/** Two opposite corners of a picture on the ground, none before it is placed. */
export function farCorners(picture: Picture): Corner[] {
  return picture?.corners ? [picture.corners[1], picture.corners[2]] : [];
}

/** The scanned plan or photo under everything, where its two points put it. */
export function Background({ picture }: { picture: Picture }) {
  const view = usePlanView();
  if (!picture?.corners) return null;
  const [topLeft, topRight, bottomLeft] = picture.corners.map(view.toPicture);
  if (!topLeft || !topRight || !bottomLeft) return null;
  const { width_px: width, height_px: height } = picture;
  const across = [(topRight[0] - topLeft[0]) / width, (topRight[1] - topLeft[1]) / width];
  const down = [(bottomLeft[0] - topLeft[0]) / height, (bottomLeft[1] - topLeft[1]) / height];
  return (
    <image
      href={pathOf(picture)}
      width={width}
      height={height}
      opacity={STRENGTH[picture.fade]}
      transform={`matrix(${[...across, ...down, ...topLeft].join()})`}
    />
  );
}
