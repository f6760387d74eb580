/** A field as the frame knows it: to find it, and to step to the next. */
export interface FrameField {
  id: string;
  name: string;
  farm: string;
}
