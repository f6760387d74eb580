import type { Metre } from '@/core/ground/outline';
import { scaleBarM, toScreen, type MapModel, type MapView } from './view';

/** Under this side in pixels a label would only smear. */
const LABEL_PX = 34;
const FONT = '12px var(--font-hyperlegible), system-ui, sans-serif';

/**
 * Draws the ground on a canvas: cells first, then outline, marks, walk and points. Only what is on
 * the canvas is drawn, so that thousands of cells pan smoothly.
 */
export function drawMap(
  ctx: CanvasRenderingContext2D,
  model: MapModel,
  view: MapView,
  width: number,
  height: number,
  colour: (name: string) => string,
  font: string,
): void {
  const at = (p: Metre) => toScreen(p, view, width, height);
  const trace = (rings: readonly (readonly Metre[])[]) => {
    ctx.beginPath();
    for (const ring of rings) {
      ring.forEach((p, i) => {
        const [x, y] = at(p);
        if (i === 0) ctx.moveTo(x, y);
        else ctx.lineTo(x, y);
      });
      ctx.closePath();
    }
  };
  const plain = FONT.replace('var(--font-hyperlegible)', font);
  ctx.clearRect(0, 0, width, height);
  ctx.fillStyle = colour('--raised');
  ctx.fillRect(0, 0, width, height);
  ctx.textAlign = 'center';
  ctx.textBaseline = 'middle';
  ctx.font = plain;

  ctx.lineWidth = 1;
  for (const cell of model.cells) {
    const ring = cell.rings[0];
    if (!ring) continue;
    let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
    for (const p of ring) {
      const [x, y] = at(p);
      x0 = Math.min(x0, x);
      x1 = Math.max(x1, x);
      y0 = Math.min(y0, y);
      y1 = Math.max(y1, y);
    }
    if (x1 < 0 || y1 < 0 || x0 > width || y0 > height) continue;
    trace(cell.rings);
    if (cell.fill) {
      ctx.fillStyle = colour(cell.fill);
      ctx.fill('evenodd');
    }
    ctx.strokeStyle = colour('--rule');
    ctx.stroke();
  }
  if (model.outline.length > 0) {
    trace(model.outline);
    ctx.lineWidth = 2.2;
    ctx.strokeStyle = colour('--ink');
    ctx.stroke();
  }
  for (const mark of model.marks) {
    const [x, y] = at(mark.at);
    ctx.beginPath();
    ctx.arc(x, y, Math.max(5, mark.radiusM * view.scale), 0, 2 * Math.PI);
    ctx.setLineDash([4, 3]);
    ctx.lineWidth = 1.4;
    ctx.strokeStyle = colour('--ink');
    ctx.stroke();
    ctx.setLineDash([]);
    ctx.fillStyle = colour('--ink');
    ctx.fillText(mark.word, x, y - Math.max(5, mark.radiusM * view.scale) - 8);
  }
  if (model.walk.length > 1) {
    ctx.beginPath();
    model.walk.forEach((p, i) => {
      const [x, y] = at(p);
      if (i === 0) ctx.moveTo(x, y);
      else ctx.lineTo(x, y);
    });
    ctx.setLineDash([2, 5]);
    ctx.lineWidth = 1.3;
    ctx.strokeStyle = colour('--water');
    ctx.stroke();
    ctx.setLineDash([]);
  }
  if (model.draft.length > 0) {
    ctx.beginPath();
    model.draft.forEach((p, i) => {
      const [x, y] = at(p);
      if (i === 0) ctx.moveTo(x, y);
      else ctx.lineTo(x, y);
    });
    ctx.lineWidth = 2;
    ctx.strokeStyle = colour('--water');
    ctx.stroke();
  }
  const dense = model.points.length > 40 && view.scale * nearest(model) < LABEL_PX;
  const filled = model.cells.some((c) => c.fill);
  for (const p of model.points) {
    const [x, y] = at(p.at);
    if (x < -40 || y < -40 || x > width + 40 || y > height + 40) continue;
    ctx.beginPath();
    if (p.kind === 'problem') {
      ctx.moveTo(x, y - 6);
      ctx.lineTo(x + 6, y + 5);
      ctx.lineTo(x - 6, y + 5);
      ctx.closePath();
    } else ctx.arc(x, y, p.kind === 'core' ? 2.2 : dense ? 2 : 4, 0, 2 * Math.PI);
    ctx.fillStyle = colour(
      p.kind === 'good' || p.kind === 'draft' || p.kind === 'corner' ? '--paper' : '--ink',
    );
    ctx.fill();
    ctx.lineWidth = 1.5;
    ctx.strokeStyle = colour('--ink');
    ctx.stroke();
    if (dense || p.kind === 'core') continue;
    ctx.fillStyle = colour(filled ? '--map-text' : '--ink');
    if (p.label) ctx.fillText(p.label, x, y - 13);
    if (p.text) {
      ctx.font = `bold ${plain}`;
      ctx.fillText(p.text, x, y + 15);
      ctx.font = plain;
    }
  }
  const metres = scaleBarM(view.scale);
  ctx.fillStyle = colour('--ink');
  ctx.fillRect(14, height - 14, metres * view.scale, 2);
  ctx.textAlign = 'left';
  ctx.fillText(metres >= 1000 ? `${metres / 1000} km` : `${metres} m`, 14, height - 24);
  ctx.textAlign = 'center';
  // North is up: the plane has it so.
  ctx.fillText('N', width - 18, 26);
  ctx.fillRect(width - 18.5, 32, 1.5, 14);
}

/** Distance of the first two points: how close samples lie, m. */
function nearest(model: MapModel): number {
  const [a, b] = model.points;
  return a && b ? Math.hypot(a.at[0] - b.at[0], a.at[1] - b.at[1]) : Infinity;
}
