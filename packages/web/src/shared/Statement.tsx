import Markdown from 'react-markdown';
import rehypeKatex from 'rehype-katex';
import remarkMath from 'remark-math';

const remark = [remarkMath];
const rehype: [typeof rehypeKatex, { strict: false; throwOnError: false }][] = [
  [rehypeKatex, { strict: false, throwOnError: false }],
];

/** Markdown with maths; markup in it is shown as text. */
export function Statement({ text }: { text: string }) {
  return (
    <div className="prose-note">
      <Markdown remarkPlugins={remark} rehypePlugins={rehype}>
        {text}
      </Markdown>
    </div>
  );
}
