/** Why a file, or a part of one, is not taken. */
export const otherCodes = ['not-known', 'empty', 'zip-inside', 'damaged', 'same-as', 'beside', 'mail', 'not-taken', 'too-large'] as const
export type OtherCode = (typeof otherCodes)[number]
