import type { Db, Tx } from '@/platform/database';

/** A choice of sittings to read together, as it was written down. */
export interface JointReading {
  id: string;
  referenceChainId: string;
  reason: string;
  by: string;
  at: Date;
  sittingIds: string[];
  /** As it lies there. */
  read: unknown;
}

/** What was chosen in a comparison, newest first. */
export async function listJointReadings(db: Db, comparisonId: string): Promise<JointReading[]> {
  return db.rows<JointReading>(
    `SELECT joint_reading.id, reference_chain_id AS "referenceChainId", reason, account.name AS by, at, read,
       ARRAY(SELECT sitting_id FROM joint_sitting WHERE joint_reading_id = joint_reading.id
         ORDER BY sitting_id) AS "sittingIds"
     FROM joint_reading JOIN account ON account.id = account_id
     WHERE comparison_id = $1 ORDER BY at DESC`,
    [comparisonId],
  );
}

export async function insertJointReading(
  tx: Tx,
  reading: {
    id: string;
    comparisonId: string;
    accountId: string;
    referenceChainId: string;
    reason: string;
    sittingIds: readonly string[];
    read: object;
  },
  at: Date,
): Promise<void> {
  await tx.rows(
    `INSERT INTO joint_reading (id, comparison_id, account_id, reference_chain_id, reason, at, read)
     VALUES ($1, $2, $3, $4, $5, $6, $7)`,
    [
      reading.id,
      reading.comparisonId,
      reading.accountId,
      reading.referenceChainId,
      reading.reason,
      at,
      JSON.stringify(reading.read),
    ],
  );
  await tx.rows(
    'INSERT INTO joint_sitting (joint_reading_id, sitting_id) SELECT $1::uuid, unnest($2::uuid[])',
    [reading.id, reading.sittingIds],
  );
}
