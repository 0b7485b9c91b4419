import type { BlockDiagram, Drawing, DrawnGroup } from '@nailset/core/diagrams';
import { type KeyboardEvent, type MouseEvent, type PointerEvent, useEffect, useRef, useState } from 'react';
import { useSize } from '../plot/useSize';
import { useLatest } from '../shared/useLatest';
import { ink, LineMark, type Look, nameOnLine, ShapeMark } from './DiagramParts';
import { GroupShade } from './GroupShade';
import { savePicture } from './savePicture';
import { type Drawn, useDrawing } from './useDrawing';
import { lineWords, nodeWords, shapeWords, showsDot } from './words';

interface Window {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

export interface DiagramViewProps {
  /** What it is, for screen readers and files. */
  title: string;
  diagram: BlockDiagram;
  /** Signals that leave it, beside those that nothing uses. */
  outputs?: readonly string[];
  picked?: readonly string[];
  /** Parts and, where `lines` is set, lines can be picked. */
  onPick?: (id: string, drawing: Drawing, shift: boolean) => void;
  lines?: boolean;
  /** Signals of a path in order, drawn strong with the lines between them. */
  traced?: readonly string[];
  /** Without tools, for a small picture among words. */
  bare?: boolean;
  /** Parts that something is said about. */
  marked?: readonly string[];
  /** Parts that belong together: a shade behind them, with their name. */
  groups?: readonly DrawnGroup[];
  /** Parts that are drawn as one block. */
  closed?: readonly DrawnGroup[];
  className?: string;
}

/** A block diagram drawn from its equations: to be read, pointed at, moved and taken away. */
export function DiagramView(props: DiagramViewProps) {
  const { title, diagram, outputs = [], bare = false, className = 'h-[260px]' } = props;
  const { drawn, failed } = useDrawing(diagram, outputs, props.closed);
  const [box, size] = useSize<HTMLDivElement>();
  const [moved, setMoved] = useState<Window>();
  // Among words a picture is shown whole; it can be enlarged.
  const least = bare ? 0 : readable;
  const isDrawn = drawn !== undefined;
  const picture = useRef<SVGSVGElement>(null);
  const drag = useRef<{ x: number; y: number; window: Window }>(undefined);
  const window = moved ?? (drawn ? fitted(drawn.drawing, size, least) : { x: 0, y: 0, width: 100, height: 50 });

  const fit = () => drawn && setMoved(fitted(drawn.drawing, size));
  const zoom = (factor: number, at = { x: 0.5, y: 0.5 }) =>
    setMoved({
      x: window.x + at.x * window.width * (1 - factor),
      y: window.y + at.y * window.height * (1 - factor),
      width: window.width * factor,
      height: window.height * factor,
    });
  const zoomed = useLatest(zoom);
  useEffect(() => {
    const element = picture.current;
    if (!element) return undefined;
    // React listens passively; a picture that zooms must keep the page from scrolling.
    const turn = (event: WheelEvent) => {
      if (!event.ctrlKey && !event.metaKey) return;
      event.preventDefault();
      const { left, top, width, height } = element.getBoundingClientRect();
      zoomed.current(event.deltaY > 0 ? 1.15 : 1 / 1.15, {
        x: (event.clientX - left) / width,
        y: (event.clientY - top) / height,
      });
    };
    element.addEventListener('wheel', turn, { passive: false });
    return () => element.removeEventListener('wheel', turn);
  }, [isDrawn, zoomed]);

  const begin = (event: PointerEvent<SVGSVGElement>) => {
    if ((event.target as Element).closest('[role=button]')) return;
    drag.current = { x: event.clientX, y: event.clientY, window };
    event.currentTarget.setPointerCapture(event.pointerId);
  };
  const move = (event: PointerEvent<SVGSVGElement>) => {
    const from = drag.current;
    if (!from) return;
    const scale = from.window.width / Math.max(1, size.width);
    setMoved({
      ...from.window,
      x: from.window.x - (event.clientX - from.x) * scale,
      y: from.window.y - (event.clientY - from.y) * scale,
    });
  };
  const keys = (event: KeyboardEvent) => {
    if (event.key === '+') zoom(1 / 1.2);
    else if (event.key === '-') zoom(1.2);
    else if (event.key === '0') fit();
    else return;
    event.preventDefault();
  };

  return (
    <figure className="min-w-0" onKeyDown={keys}>
      <div
        ref={box}
        className={`relative overflow-hidden rounded-[2px] bg-sheet ${className}`}
        style={bare && drawn ? { aspectRatio: `${drawn.drawing.width + 16} / ${drawn.drawing.height + 16}` } : {}}
      >
        {failed && <p className="p-3 text-brick">{failed}</p>}
        {drawn && (
          <svg
            ref={picture}
            role="group"
            aria-label={title}
            className="absolute inset-0 h-full w-full touch-none select-none"
            viewBox={`${window.x} ${window.y} ${window.width} ${window.height}`}
            onPointerDown={begin}
            onPointerMove={move}
            onPointerUp={() => (drag.current = undefined)}
          >
            <Parts {...props} drawn={drawn} />
          </svg>
        )}
      </div>
      {!bare && (
        <figcaption className="mt-1 flex flex-wrap items-baseline gap-x-3 text-note text-slate">
          <span className="flex gap-2">
            <ToolButton label="Zoom out" onClick={() => zoom(1.2)}>
              −
            </ToolButton>
            <ToolButton label="Zoom in" onClick={() => zoom(1 / 1.2)}>
              +
            </ToolButton>
            <ToolButton onClick={fit}>Fit</ToolButton>
          </span>
          <ToolButton
            onClick={() => picture.current && drawn && void savePicture(picture.current, drawn.drawing, title, 'svg')}
          >
            SVG
          </ToolButton>
          <ToolButton
            onClick={() => picture.current && drawn && void savePicture(picture.current, drawn.drawing, title, 'png')}
          >
            PNG
          </ToolButton>
          <details className="min-w-0">
            <summary className="link cursor-pointer">As a list</summary>
            <ol className="mt-1 list-decimal pl-5">
              {diagram.nodes.map((node) => (
                <li key={node.id}>{nodeWords(diagram, node)}</li>
              ))}
            </ol>
          </details>
        </figcaption>
      )}
    </figure>
  );
}

function ToolButton({ label, onClick, children }: { label?: string; onClick: () => void; children: string }) {
  return (
    <button type="button" className="link" aria-label={label} onClick={onClick}>
      {children}
    </button>
  );
}

/** Everything that is drawn, lines below. */
function Parts({
  drawn: { diagram, drawing },
  picked = [],
  onPick,
  lines: pickLines = false,
  traced = [],
  marked = [],
  groups = [],
}: DiagramViewProps & { drawn: Drawn }) {
  const look = (id: string, signal: string): Look =>
    picked.includes(id) ? 'picked' : marked.includes(id) ? 'marked' : traced.includes(signal) ? 'traced' : 'plain';
  const lineLook = ({ id, signal, to }: Drawing['lines'][number]): Look => {
    if (picked.includes(id)) return 'picked';
    if (marked.includes(id)) return 'marked';
    const at = traced.indexOf(signal);
    const target = to.startsWith('tap ') || to.startsWith('out ') ? signal : to;
    const on = at >= 0 && (target === signal ? !to.startsWith('out ') : traced[(at + 1) % traced.length] === target);
    return on ? 'traced' : 'plain';
  };
  const control = (id: string, label: string) =>
    onPick
      ? {
          role: 'button',
          tabIndex: 0,
          'aria-label': label,
          'aria-pressed': picked.includes(id),
          className: 'cursor-pointer outline-none focus-visible:outline-2 focus-visible:outline-petrol',
          onClick: (event: MouseEvent) => onPick(id, drawing, event.shiftKey),
          onKeyDown: (event: KeyboardEvent) => {
            if (event.key !== 'Enter' && event.key !== ' ') return;
            event.preventDefault();
            onPick(id, drawing, event.shiftKey);
          },
        }
      : {};
  return (
    <>
      {groups.map((group) => (
        <GroupShade key={group.name} group={group} drawing={drawing} />
      ))}
      {drawing.lines.map((line) => (
        <g key={line.id} data-line={line.id} {...(pickLines ? control(line.id, lineWords(diagram, line)) : {})}>
          <LineMark line={line} look={lineLook(line)} name={nameOnLine(diagram, drawing, line)} />
        </g>
      ))}
      {drawing.dots.map(({ x, y }) => (
        <circle key={`${x} ${y}`} cx={x} cy={y} r={3.2} fill={ink} />
      ))}
      {drawing.shapes.map((shape) => {
        const node = diagram.nodes.find(({ id }) => id === shape.id);
        const props = shape.kind === 'tap' ? {} : control(shape.id, shapeWords(diagram, shape));
        return (
          <g
            key={shape.id}
            data-shape={shape.id}
            {...props}
            style={{ transform: `translate(${shape.x}px, ${shape.y}px)`, transition: 'transform 250ms ease' }}
          >
            <ShapeMark
              shape={shape}
              look={look(shape.id, shape.signal)}
              dot={shape.kind === 'tap' && showsDot(drawing, shape)}
              {...(node?.kind === 'block' ? { gain: node.gain } : {})}
            />
          </g>
        );
      })}
    </>
  );
}

/** As small as blocks can be read with ease. */
const readable = 0.6;
/** A drawing that is shown whole may be a little smaller than what is read with ease: better than without its end. */
const stillWhole = 0.8;

/** All of a drawing, not larger than life; where that is much smaller than `least`, its left end. */
function fitted({ width, height }: Drawing, size: { width: number; height: number }, least = 0): Window {
  const whole = Math.min(1.25, size.width / (width + 16), size.height / (height + 16)) || 1;
  const scale = whole >= stillWhole * least ? whole : least;
  const [w, h] = [size.width / scale, size.height / scale];
  return { x: scale > whole && w < width ? -8 : (width - w) / 2, y: (height - h) / 2, width: w, height: h };
}
