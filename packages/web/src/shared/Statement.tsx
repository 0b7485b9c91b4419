import { type ReactElement, isValidElement, memo } from 'react';
import Markdown, { type Components } from 'react-markdown';
import remarkMath from 'remark-math';
import { Formula } from './Formula';

const plugins = [remarkMath];

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
};

const textOf = (children: unknown): string => (typeof children === 'string' ? children : '');

/** Markdown with maths; markup in it is shown as text. */
export const Statement = memo(function Statement({ text }: { text: string }) {
  // A formula alone on its line is a displayed one, whether or not its dollar signs have lines of their own.
  const spaced = text.replace(/^[ \t]*\$\$(.+?)\$\$[ \t]*$/gm, '$$$$\n$1\n$$$$');
  return (
    <div className="prose-note">
      <Markdown remarkPlugins={plugins} components={components}>
        {spaced}
      </Markdown>
    </div>
  );
});
