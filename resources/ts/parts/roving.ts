import type { Directive } from 'vue'

const items = (group: HTMLElement) => [...group.querySelectorAll<HTMLElement>('[role=radio], [role=tab]')].filter((item) => !item.hasAttribute('disabled'))
const isChosen = (item: HTMLElement) => item.getAttribute('aria-checked') === 'true' || item.getAttribute('aria-selected') === 'true'

/** One of the group is reached by Tab: the chosen one, or the first. */
function reach(group: HTMLElement) {
    const all = items(group)
    const chosen = all.find(isChosen) ?? all[0]
    for (const item of all) item.tabIndex = item === chosen ? 0 : -1
}

function move(event: KeyboardEvent) {
    const all = items(event.currentTarget as HTMLElement)
    const at = all.indexOf(event.target as HTMLElement)
    if (at < 0 || event.ctrlKey || event.metaKey || event.altKey) return
    const to = { ArrowRight: at + 1, ArrowDown: at + 1, ArrowLeft: at - 1, ArrowUp: at - 1, Home: 0, End: all.length - 1 }[event.key]
    if (to === undefined) return
    // The keys of the page, which move the blade, are not meant here.
    event.stopPropagation()
    event.preventDefault()
    const next = all[(to + all.length) % all.length]
    next.focus()
    next.click()
}

/** Who chose with the mouse goes on with the keys of the page. */
function leave(event: MouseEvent) {
    if (event.detail > 0 && document.activeElement instanceof HTMLElement && (event.currentTarget as HTMLElement).contains(document.activeElement)) document.activeElement.blur()
}

/** Arrow keys, Home and End within a radio group or a list of tabs, as the WAI-ARIA Authoring Practices (W3C) describe them: what is reached is chosen. */
export const vRoving: Directive<HTMLElement> = {
    mounted(group) {
        group.addEventListener('keydown', move)
        group.addEventListener('click', leave)
        reach(group)
    },
    updated: reach,
}
