import { Picture } from '@nailset/core';
import { useState } from 'react';
import { RemoveButton, without } from '../../shared/fields';
import { FileButton } from '../../shared/FileButton';
import { freeId } from '../../shared/freeId';

const types = Picture.properties.type.enum as readonly Picture['type'][];
const mostBytes = 290_000;

/** Pictures for statement and prompts. */
export function PicturesEditor({
  pictures,
  disabled,
  onChange,
}: {
  pictures: readonly Picture[];
  disabled: boolean;
  onChange: (pictures: Picture[]) => void;
}) {
  const [problem, setProblem] = useState('');
  const read = async (file: File) => {
    const type = types.find((known) => known === file.type);
    if (!type) return setProblem(`${file.name} is no PNG, JPEG, SVG or WebP picture.`);
    if (file.size > mostBytes) return setProblem(`${file.name} is larger than 290 kB; make it smaller first.`);
    const bytes = new Uint8Array(await file.arrayBuffer());
    let binary = '';
    for (const byte of bytes) binary += String.fromCharCode(byte);
    const base = file.name
      .toLowerCase()
      .replace(/\.[^.]*$/, '')
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^[^a-z]+|-$/g, '');
    const id = freeId(
      base.slice(0, 28) || 'picture',
      pictures.map((picture) => picture.id),
    );
    setProblem('');
    onChange([...pictures, { id, type, base64: btoa(binary) }]);
  };
  return (
    <section aria-label="Pictures">
      <h3 className="label mb-1">Pictures</h3>
      {pictures.map((picture, index) => (
        <div key={picture.id} className="mb-1 grid grid-cols-[56px_1fr_24px] items-center gap-2 text-[13px]">
          <img
            src={`data:${picture.type};base64,${picture.base64}`}
            alt={`Preview of ${picture.id}`}
            className="max-h-10 max-w-14"
          />
          <code className="font-mono text-note select-all">![what it shows](picture:{picture.id})</code>
          {!disabled && (
            <RemoveButton label={`Remove ${picture.id}`} onClick={() => onChange(without(pictures, index))} />
          )}
        </div>
      ))}
      {problem && (
        <p role="alert" className="text-note text-brick">
          {problem}
        </p>
      )}
      {!disabled && pictures.length < 4 && (
        <FileButton words="Add a picture" accept={types.join(',')} onFile={(file) => void read(file)} />
      )}
    </section>
  );
}
