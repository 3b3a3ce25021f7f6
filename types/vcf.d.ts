declare module 'vcf' {
  const vCard: { parseLines(lines: string[]): Record<string, unknown> }
  export default vCard
}
