import { expect, test } from '@playwright/test'
import { Refused } from '../../resources/ts/api/client'
import { latest, said } from '../../resources/ts/api/latest'

// No page: questions about a blade that is dragged never queue up.

function asker() {
    const asked: number[] = []
    const answers: { resolve: (answer: string) => void; reject: (error: unknown) => void }[] = []
    const taken: [string, number][] = []
    const refused: unknown[] = []
    const one = latest(
        (question: number) => {
            asked.push(question)
            return new Promise<string>((resolve, reject) => answers.push({ resolve, reject }))
        },
        (answer, question) => taken.push([answer, question]),
        (error) => refused.push(error),
    )
    return { one, asked, answers, taken, refused }
}

const turn = () => new Promise((resolve) => setTimeout(resolve))

test('while one is under way only the newest waits', async () => {
    const { one, asked, answers, taken } = asker()
    for (const question of [1, 2, 3, 4, 5]) one.ask(question)
    expect(asked).toEqual([1])
    answers[0].resolve('a')
    await turn()
    expect(asked).toEqual([1, 5])
    expect(taken).toEqual([['a', 1]])
    answers[1].resolve('b')
    await turn()
    expect(taken).toEqual([['a', 1], ['b', 5]])
    one.ask(6)
    expect(asked).toEqual([1, 5, 6])
})

test('a refusal is told once, and the next question goes out', async () => {
    const { one, asked, answers, taken, refused } = asker()
    one.ask(1)
    answers[0].reject(new Refused('No.'))
    await turn()
    expect(refused.map(said)).toEqual(['No.'])
    one.ask(2)
    answers[1].resolve('b')
    await turn()
    expect([asked, taken]).toEqual([[1, 2], [['b', 2]]])
    expect(said(new TypeError('x'))).toContain('reload it. Your work is kept.')
})

test('what is asked while a question fails goes out by itself', async () => {
    const { one, asked, answers, taken, refused } = asker()
    one.ask(1)
    one.ask(2)
    answers[0].reject(new Refused('No.'))
    await turn()
    expect([asked, refused.length]).toEqual([[1, 2], 1])
    answers[1].resolve('b')
    await turn()
    expect(taken).toEqual([['b', 2]])
})

test('what was dropped is not taken, whatever comes of it', async () => {
    const { one, asked, answers, taken, refused } = asker()
    one.ask(1)
    one.ask(2)
    one.drop()
    answers[0].resolve('late')
    await turn()
    expect([asked, taken]).toEqual([[1], []])
    one.ask(3)
    answers[1].reject(new Refused('dropped too'))
    one.drop()
    await turn()
    expect([asked, taken, refused]).toEqual([[1, 3], [], []])
})
