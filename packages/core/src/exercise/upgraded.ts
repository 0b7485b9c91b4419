type Fields = Record<string, unknown>;

/**
 * A document of an earlier format in the present one; any other value as it is, for the schema to judge. Format 1 knew
 * parts with one quantity of one system, and gains in parallel form only. Format 2 began with another name for the gain
 * at rest; formulas read former names themselves.
 */
export function upgraded(document: unknown): unknown {
  if (typeof document !== 'object' || document === null || Array.isArray(document)) return document;
  const old = document as Fields;
  if (old['format'] !== 1) {
    const parts: unknown[] = Array.isArray(old['parts']) ? old['parts'] : [];
    return parts.some(hasFormerName) ? { ...old, parts: parts.map(renamed) } : document;
  }
  return {
    ...old,
    format: 2,
    systems: [],
    guards: [],
    series: [],
    pictures: [],
    shows: { measured: true, slip: true },
    late: null,
    parts: Array.isArray(old['parts']) ? (old['parts'] as Fields[]).map(upgradedPart) : old['parts'],
  };
}

const formerName = 'dcGain';

const nailsOf = (part: unknown): (Fields | null)[] => {
  const nails = (part as Fields | null)?.['nails'];
  return Array.isArray(nails) ? (nails as (Fields | null)[]) : [];
};

const hasFormerName = (part: unknown): boolean => nailsOf(part).some((nail) => nail?.['quantity'] === formerName);

/** The part with its nails by their present names. */
function renamed(part: unknown): unknown {
  if (!hasFormerName(part)) return part;
  const nails = nailsOf(part).map((nail) =>
    nail?.['quantity'] === formerName ? { ...nail, quantity: 'gainAtRest' } : nail,
  );
  return { ...(part as Fields), nails };
}

const units: Record<string, string> = { overshootPercent: '%', riseTime: 's', settlingTime: 's', peakTime: 's' };

function upgradedPart(part: Fields): Fields {
  if (part['kind'] === 'number') {
    const { quantity, system, ...rest } = part as Fields & { quantity: string; system: string };
    const formula = quantity === 'stepError' ? `abs(1 - finalValue(${system}))` : `${quantity}(${system})`;
    return { ...rest, formula, unit: units[quantity] ?? '' };
  }
  if (part['kind'] === 'gains') {
    const { form, start, rungs, ...rest } = part as Fields & {
      form: string;
      start: Record<string, number>;
      rungs: Record<string, { fine: number; coarse: number }>;
    };
    const gains = ['Kp', 'Ki', 'Kd']
      .filter((name) => rungs[name])
      .map((name) => ({ name, start: start[name] ?? 0, ...rungs[name] }));
    return { ...rest, views: [], controller: { terms: form, form: 'parallel', gains } };
  }
  return part;
}
