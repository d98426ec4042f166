import { defineStore } from 'pinia'

export type Display = 'shaded' | 'glass'

const KEY = 'isotome'

interface Settings {
    theme: 'day' | 'night'
    display: Display
    lines: boolean
}

function remembered(): Settings {
    const start: Settings = { theme: 'day', display: 'shaded', lines: false }
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
