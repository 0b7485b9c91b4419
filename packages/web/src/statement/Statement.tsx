import type { Picture, ShownDiagram } from '@nailset/core';
import { createContext, isValidElement, lazy, memo, type ReactElement, Suspense, use } from 'react';
import Markdown, { type Components, defaultUrlTransform } from 'react-markdown';
import remarkMath from 'remark-math';
import { Formula } from '../shared/Formula';

const plugins = [remarkMath];

const DiagramFigure = lazy(async () => ({ default: (await import('../diagram/DiagramFigure')).DiagramFigure }));

/** What the words of the exercise at hand show by `picture:id` and `diagram:name`. */
export const ShownContext = createContext<{
  readonly pictures: readonly Picture[];
  readonly diagrams: readonly ShownDiagram[];
}>({ pictures: [], diagrams: [] });

const textOf = (children: unknown): string => (typeof children === 'string' ? children : '');

function Shown({ src = '', alt = '' }: { src?: string; alt?: string }) {
  const { pictures, diagrams } = use(ShownContext);
  if (src.startsWith('diagram:')) {
    const diagram = diagrams.find(({ name }) => `diagram:${name}` === src);
    if (!diagram) return <span className="text-brick">There is no diagram “{src.replace('diagram:', '')}”.</span>;
    return (
      <Suspense fallback={null}>
        <DiagramFigure title={alt || `Block diagram ${diagram.name}`} diagram={diagram} />
      </Suspense>
    );
  }
  const picture = pictures.find(({ id }) => `picture:${id}` === src);
  if (!picture) return <span className="text-brick">There is no picture “{src.replace('picture:', '')}”.</span>;
  return <img src={`data:${picture.type};base64,${picture.base64}`} alt={alt} className="my-2 max-h-72 max-w-full" />;
}

/** Formulas are typeset by the one component that does so everywhere. */
const components: Components = {
  code: ({ className = '', children }) =>
    className.includes('math-inline') ? (
      <Formula latex={textOf(children)} />
    ) : (
      <code className="font-mono">{children}</code>
    ),
  pre: ({ children }) => {
    const { className = '', children: text } = isValidElement(children)
      ? (children as ReactElement<{ className?: string; children?: unknown }>).props
      : {};
    return className.includes('math-display') ? <Formula latex={textOf(text)} display /> : <pre>{children}</pre>;
  },
  img: ({ src, alt }) => <Shown src={typeof src === 'string' ? src : ''} alt={alt ?? ''} />,
};

const keepPictures = (url: string): string => (/^(picture|diagram):/.test(url) ? url : defaultUrlTransform(url));

/** What the words of an option come to where nothing can be shown: pictures by their titles. */
export const plainText = (text: string): string =>
  text
    .replace(/!\[([^\]]*)\]\((?:diagram|picture):([^)]*)\)/g, (_, alt: string, name: string) => alt || name)
    .replace(/[$*_`#]/g, '');

/** Markdown with maths and the exercise’s pictures; markup in it is shown as text. */
export const Statement = memo(function Statement({ text }: { text: string }) {
  // A formula alone on its line is a displayed one, whether or not its dollar signs have lines of their own.
  const spaced = text.replace(/^[ \t]*\$\$(.+?)\$\$[ \t]*$/gm, '$$$$\n$1\n$$$$');
  return (
    <div className="prose-note">
      <Markdown remarkPlugins={plugins} components={components} urlTransform={keepPictures}>
        {spaced}
      </Markdown>
    </div>
  );
});
