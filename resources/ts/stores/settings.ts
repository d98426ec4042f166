import { defineStore } from 'pinia'

export type Display = 'shaded' | 'flat' | 'glass'
export type Sorting = 'lineage' | 'name' | 'size' | 'volume' | 'triangles' | 'trouble'

const KEY = 'isotome'

interface Settings {
    theme: 'day' | 'night'
    display: Display
    lines: boolean
    box: boolean
    printer: boolean
    /** Pieces in the colours that came with them. */
    own: boolean
    /** Which is open: see stations/index.ts. */
    station: string
    left: 'pieces' | 'lineage'
    sorting: Sorting
    leftOpen: boolean
    rightOpen: boolean
    railOpen: boolean
    hints: boolean
}

function remembered(): Settings {
    const start: Settings = {
        theme: 'day', display: 'shaded', lines: false, box: false, printer: false, own: true, station: 'cut', left: 'pieces', sorting: 'lineage', leftOpen: true, rightOpen: true,
        railOpen: true, hints: true,
    }
    try {
        return { ...start, ...(JSON.parse(localStorage.getItem(KEY) ?? '{}') as Partial<Settings>) }
    } catch {
        return start
    }
}

/** How things look; nothing here changes what a cut does. */
export const useSettings = defineStore('settings', {
    state: remembered,
    actions: {
        keep() {
            document.documentElement.dataset.theme = this.theme
            localStorage.setItem(KEY, JSON.stringify(this.$state))
        },
    },
})
