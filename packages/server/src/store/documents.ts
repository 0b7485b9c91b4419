import { type ExerciseDocument, must } from '@nailset/core';
import { eq, inArray } from 'drizzle-orm';
import { LRUCache } from 'lru-cache';
import type { Database, Transaction } from './database.js';
import { versions } from './schema.js';

/** Published documents never change, so each is read once while it is remembered; 64 million characters of them. */
const known = new LRUCache<string, ExerciseDocument>({
  maxSize: 64_000_000,
  sizeCalculation: (document) => JSON.stringify(document).length,
});

/** The documents of these versions, by version. */
export async function documentsOf(
  database: Database | Transaction,
  versionIds: readonly string[],
): Promise<Map<string, ExerciseDocument>> {
  const missing = versionIds.filter((id) => !known.has(id));
  const documents = new Map<string, ExerciseDocument>();
  if (missing.length > 0) {
    const rows = await database
      .select({ id: versions.id, document: versions.document })
      .from(versions)
      .where(inArray(versions.id, missing));
    for (const { id, document } of rows) {
      known.set(id, document);
      documents.set(id, document);
    }
  }
  for (const id of versionIds)
    if (!documents.has(id)) documents.set(id, known.get(id) ?? (await readAgain(database, id)));
  return documents;
}

/** One that was pushed out while others were read. */
async function readAgain(database: Database | Transaction, id: string): Promise<ExerciseDocument> {
  const [row] = await database.select({ document: versions.document }).from(versions).where(eq(versions.id, id));
  return must(row).document;
}

export async function documentOf(database: Database | Transaction, versionId: string): Promise<ExerciseDocument> {
  return must((await documentsOf(database, [versionId])).get(versionId));
}
