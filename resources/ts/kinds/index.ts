import type { StepSettings } from '../api/types'
import { useBlade } from '../stores/blade'
import { useShown } from '../stores/shown'
import { bent } from './bent'
import { cells } from './cells'
import { combine } from './combine'
import { drawn } from './drawn'
import type { Kind } from './Kind'
import { marks } from './marks'
import { mend } from './mend'
import { mirror } from './mirror'
import { motion } from './motion'
import { paint } from './paint'
import { pegs } from './pegs'
import { plan } from './plan'
import { planes } from './planes'
import { plates } from './plates'
import { place } from './place'
import { print } from './print'

/** All kinds, in the order in which they are offered. */
export const KINDS: Kind[] = [planes, bent, drawn, cells, mirror, combine, place, mend, paint, plan, pegs, marks, plates, print, motion]

/** Those that are chosen in a row, of the Cut station. */
export const CHOSEN = KINDS.filter((kind) => kind.choices.length)

/** The kind that is set now. */
export const current = (): Kind => CHOSEN.find((kind) => kind.id === useBlade().kind) ?? planes

export const kindOf = (settings: StepSettings): Kind | undefined => KINDS.find((kind) => kind.is(settings))

/** Another kind is set, by one of the choices in the row. */
export function choose(choice: string): void {
    const before = current()
    useBlade().placing = 'none'
    const now = CHOSEN.find((kind) => kind.choices.some(({ value }) => value === choice))
    now?.choose?.(choice)
    if (before !== now) {
        useShown().handles = []
        before.left?.()
    }
}
