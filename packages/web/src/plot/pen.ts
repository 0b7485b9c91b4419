import { tenths } from './frame';

/** How far the line may lie from a point that it leaves out, in pixels. */
const tolerance = 0.08;
/** Nearer than this, in pixels, points are one. */
const least = 0.3;

/**
 * Writes a line through places of a picture as a path, in tenths of a pixel, without the points that it runs through
 * anyway: a browser draws a curve of forty points sooner than one of four hundred, and nobody sees which it is.
 *
 * Method: from the last point written, points are left out for as long as they lie along the direction in which the
 * first of them was seen (Reumann and Witkam).
 */
export class Pen {
  private path = '';
  private isDown = false;
  /** The last point written. */
  private fromX = 0;
  private fromY = 0;
  /** From there, of length 1; none while every point is that one. */
  private alongX = 0;
  private alongY = 0;
  private hasWay = false;
  /** The last point that was left out so far, and how far along. */
  private lastX = 0;
  private lastY = 0;
  private far = 0;
  private isWaiting = false;

  /** On to a place, in pixels; where there is none the line is broken. */
  to(x: number, y: number): void {
    if (!Number.isFinite(x) || !Number.isFinite(y)) return this.lift();
    if (!this.isDown) {
      this.isDown = true;
      return this.write('M', x, y);
    }
    const across = x - this.fromX;
    const down = y - this.fromY;
    if (this.hasWay) {
      const along = across * this.alongX + down * this.alongY;
      if (Math.abs(across * this.alongY - down * this.alongX) > tolerance || along < this.far) {
        this.write('L', this.lastX, this.lastY);
        return this.to(x, y);
      }
      this.far = along;
    } else {
      const length = Math.hypot(across, down);
      this.hasWay = length > least;
      if (this.hasWay) {
        this.alongX = across / length;
        this.alongY = down / length;
        this.far = length;
      }
    }
    this.lastX = x;
    this.lastY = y;
    this.isWaiting = true;
  }

  /** Ends the line; what follows is another one. */
  lift(): void {
    if (this.isWaiting) this.write('L', this.lastX, this.lastY);
    this.isDown = false;
  }

  /** The path so far, ended. */
  get written(): string {
    this.lift();
    return this.path;
  }

  private write(command: 'M' | 'L', x: number, y: number): void {
    this.path += `${command}${tenths(x)} ${tenths(y)}`;
    this.fromX = x;
    this.fromY = y;
    this.hasWay = false;
    this.isWaiting = false;
  }
}
