export { default } from './answers/all.ts'
