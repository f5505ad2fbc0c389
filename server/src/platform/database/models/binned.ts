/** Of tables whose removed rows lie in the bin, and are not found unless they are asked for there. */
export const BINNED = { timestamps: true, createdAt: false, updatedAt: false, deletedAt: 'removedAt', paranoid: true } as const;
