/**
 * Attributes of a `file` element of a folder listing (IrOBEX 1.3, section 9.1, `x-obex/folder-listing`), and those
 * phones add for what the standard has no word for; the latter begin with `x_`.
 */
export const fileAttributes = [
  'name',
  'size',
  'type',
  'created',
  'modified',
  'x_folder',
  'x_handle',
  'x_role',
  'x_taken',
  'x_place',
  'x_favourite',
  'x_hidden',
  'x_burst',
  'x_cloud',
  'x_width',
  'x_height',
  // noted by us while a file was streamed: what it was found to be
  'x_digest',
  'x_is',
  'x_seen_taken',
  'x_seen_place',
  'x_turned',
  'x_damaged',
] as const
export type FileAttribute = (typeof fileAttributes)[number]
export type FileEntry = Partial<Record<FileAttribute, string>>
