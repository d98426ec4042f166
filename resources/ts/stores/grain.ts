import type { StepSettings } from '../api/types'
import { mm, number } from '../format'

/** Roughness of a blade's surface: how high its hills are and how far apart, and a second, finer one. Millimetres. */
export interface Grain {
    height: number
    size: number
    fineHeight: number
    fineSize: number
    /** Edges of the surface; null for a quarter of the size. */
    edge: number | null
    seed: number
}

/** What a blade has first when it is made rough: coarse enough to be seen on what is a hand wide. */
export const NO_GRAIN: Grain = { height: 1.5, size: 8, fineHeight: 0, fineSize: 1.5, edge: null, seed: 1 }

export function grainOf(grain: StepSettings['grain']): Grain | null {
    return grain ? { ...NO_GRAIN, height: grain.height, size: grain.size, fineHeight: grain.finer?.height ?? 0, fineSize: grain.finer?.size ?? NO_GRAIN.fineSize, edge: grain.edge_mm ?? null, seed: grain.seed ?? 1 } : null
}

/** As the recipe writes it. */
export function grainSettings({ height, size, fineHeight, fineSize, edge, seed }: Grain): NonNullable<StepSettings['grain']> {
    return { height, size, ...(fineHeight > 0 ? { finer: { height: fineHeight, size: fineSize } } : {}), ...(edge ? { edge_mm: edge } : {}), seed }
}

/** How it is said in a sentence. */
export const roughly = (grain: Grain | null) => (grain ? `, rough by up to ${mm(grain.height + grain.fineHeight)}` : '')

/** How it is said of a step in the lineage. */
export const rough = (grain: StepSettings['grain']) => (grain ? `, rough ${number(grain.height, 1)}` : '')
