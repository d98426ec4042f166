import { defineStore } from 'pinia'

/** What is being done at the Plate station. */
export type PlateWork = 'plan' | 'pegs' | 'marks' | 'plates' | 'print'

export const usePlate = defineStore('plate', { state: (): { work: PlateWork } => ({ work: 'plan' }) })
