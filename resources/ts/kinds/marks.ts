import { computed, watch } from 'vue'
import { floats } from '../api/floats'
import { useMarks } from '../stores/marks'
import { useProject } from '../stores/project'
import { useShown } from '../stores/shown'
import { CellLines } from '../view/CellLines'
import type { Kind } from './Kind'

/** Numbers and arrows on the faces that pieces share. */
export const marks: Kind = {
    id: 'marks',
    station: 'plate',
    choices: [],
    is: (settings) => settings.do === 'mark',
    told: ({ raised, first, arrow }) => `${raised ? 'Raised' : 'Engraved'} marks from ${first ?? 1}${arrow === false ? '' : ', with arrows'}`,
    edit: (step) => useMarks().load(step),
    run: () => useMarks().run(),
    taken: () => useMarks().ask(),
    picked() {
        if (useProject().picked.length && useMarks().isAtHand) useMarks().set({})
    },
    forget: () => useMarks().forget(),
    draw(view, active) {
        const layer = view.add(new CellLines())
        const lines = computed(() => (active() && !useProject().busy && useProject().spread === 0 ? useMarks().forecast?.lines : null) ?? '')
        watch(lines, (now) => {
            layer.show(floats(now), new Float32Array())
            useShown().images.marks = now ? 1 : 0
            view.redraw()
        }, { immediate: true })
    },
}
