import type { PieceFit, Printer } from './api/types'

// Numbers as they are shown, always with their unit. Narrow spaces group thousands.

const group = (text: string) => text.replace(/\B(?=(\d{3})+(?!\d))/g, '\u202f')

export function number(value: number, digits: number): string {
    const [whole, part] = Math.abs(value).toFixed(digits).split('.')
    const sign = value < 0 && Number(value.toFixed(digits)) !== 0 ? '−' : ''
    return sign + group(whole) + (part ? `.${part}` : '')
}

export const mm = (value: number, digits = value < 1000 ? 1 : 0) => `${number(value, digits)} mm`

export function mm2(value: number): string {
    return `${number(value, value < 100 ? 1 : 0)} mm²`
}

export function volume(mm3: number): string {
    return Math.abs(mm3) < 1000 ? `${number(mm3, 1)} mm³` : `${number(mm3 / 1000, mm3 < 1e6 ? 1 : 0)} cm³`
}

export function size(value: readonly number[], digits = 1): string {
    return `${value.map((side) => number(side, side < 1000 ? digits : 0)).join(' × ')} mm`
}

/** A printer's space: of a round bed its diameter. */
export const bedSize = (printer: Printer) => (printer.round ? `Ø ${number(printer.x, 0)} × ${number(printer.z, 0)} mm` : size([printer.x, printer.y, printer.z], 0))

/** Of hours and minutes, or of minutes and seconds. */
export function duration(seconds: number): string {
    const minutes = Math.floor(Math.round(seconds) / 60)
    if (minutes >= 60) return `${number(Math.floor(minutes / 60), 0)} h ${minutes % 60} min`
    return minutes ? `${minutes} min ${Math.round(seconds) % 60} s` : `${Math.round(seconds)} s`
}

export const count = (value: number, one: string, many: string) => `${number(value, 0)} ${value === 1 ? one : many}`

/** One thing; one thing and another; one thing, another and a third. */
export const list = (words: readonly string[]) => (words.length < 2 ? words.join('') : `${words.slice(0, -1).join(', ')} and ${words[words.length - 1]}`)

/** clay-jar-A-B is shown as Clay jar A-B: the stock's name, then the letters of each cut. */
export function label(name: string): string {
    const [, stock, cuts] = /^(.*?)((?:-[A-Z]+)*)$/.exec(name) ?? [name, name, '']
    const title = (stock.charAt(0).toUpperCase() + stock.slice(1)).replace(/-/g, ' ')
    return cuts ? `${title} ${cuts.slice(1)}` : title
}

/** How a piece goes into the printer, in a word or two. */
export function fitWords(fit: { fits: boolean; how: string; over_mm: number }): string {
    if (!fit.fits) return `${number(Math.max(0.1, fit.over_mm), fit.over_mm < 10 ? 1 : 0)} mm too large`
    return { stands: 'fits', turned: 'fits turned', 'laid down': 'fits laid down', tilted: 'fits tilted' }[fit.how] ?? 'fits'
}

/** How a piece is to be turned to fit. */
export const fitTitle = (fit: PieceFit): string => (fit.turn ? `turned by ${number(fit.turn.degrees, 1)}° about ${fit.turn.axis.map((part) => number(part, 2)).join(' · ')}` : '')

export function bytes(count: number): string {
    return count < 1e6 ? `${number(Math.ceil(count / 1000), 0)} kB` : `${number(count / 1e6, count < 1e7 ? 1 : 0)} MB`
}
