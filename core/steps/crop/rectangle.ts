/** A crop: centre and size in upright coordinates (field units). */
export interface Rectangle {
  x: number;
  y: number;
  width: number;
  height: number;
}
