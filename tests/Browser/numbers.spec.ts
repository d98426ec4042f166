import { expect, test } from '@playwright/test'
import { count, label, mm, mm2, number, size, volume } from '../../resources/ts/format'
import { dot, facing, moved, reach } from '../../resources/ts/view/direction'

// No page: the small arithmetic of showing and placing.

test('numbers are grouped, rounded, and never minus zero', () => {
    expect(number(1234567.891, 2)).toBe('1\u202f234\u202f567.89')
    expect(number(-0.001, 1)).toBe('0.0')
    expect(number(-12.25, 1)).toMatch(/^−12\.[23]$/)
    expect(mm(12.34)).toBe('12.3 mm')
    expect(mm(1234.5)).toBe('1\u202f235 mm')
    expect(mm2(7412)).toBe('7\u202f412 mm²')
    expect(volume(500)).toBe('500.0 mm³')
    expect(volume(1_420_700)).toBe('1\u202f421 cm³')
    expect(size([1, 2.25, 3])).toBe('1.0 × 2.3 × 3.0 mm')
    expect([count(1, 'piece', 'pieces'), count(1200, 'piece', 'pieces')]).toEqual(['1 piece', '1\u202f200 pieces'])
})

test('names of pieces are shown as titles with the letters of their cuts', () => {
    expect(['heron', 'heron-A', 'heron-A-AB', 'clay-jar', 'clay-jar-B-A', 'x-1'].map(label)).toEqual(['Heron', 'Heron A', 'Heron A-AB', 'Clay jar', 'Clay jar B-A', 'X 1'])
})

test('turn and tilt give unit vectors that are exact along the axes', () => {
    expect(facing(0, 0)).toEqual([0, 0, 1])
    expect(facing(0, 90)).toEqual([1, 0, 0])
    expect(facing(90, 90)).toEqual([0, 1, 0])
    expect(facing(180, 90)).toEqual([-1, 0, 0])
    expect(facing(33, 180)).toEqual([0, 0, -1])
    for (let turn = -180; turn <= 180; turn += 15) {
        for (let tilt = 0; tilt <= 180; tilt += 5) {
            const f = facing(turn, tilt)
            expect(Math.hypot(...f)).toBeCloseTo(1, 12)
            expect(f[2]).toBeCloseTo(Math.cos((tilt * Math.PI) / 180), 12)
        }
    }
    // Half a part up to one sideways is 26.57 degrees from level, not 22.5.
    const [x, , z] = facing(0, 63.434948822922)
    expect(z / x).toBeCloseTo(0.5, 9)
})

test('a box reaches along a direction as far as its corners do', () => {
    expect(reach([0, 0, 0], [10, 20, 30], [0, 0, 1])).toEqual([0, 30])
    expect(reach([-1, 2, -3], [4, 5, 6], [0, -1, 0])).toEqual([-5, -2])
    const direction = facing(25, 70)
    const [low, high] = reach([-3, -2, -1], [5, 7, 9], direction)
    const corners = [0, 1, 2, 3, 4, 5, 6, 7].map((c) => dot([c & 1 ? 5 : -3, c & 2 ? 7 : -2, c & 4 ? 9 : -1], direction))
    expect(low).toBeCloseTo(Math.min(...corners), 12)
    expect(high).toBeCloseTo(Math.max(...corners), 12)
    expect(moved([1, 2, 3], [0, 0, 1], 4)).toEqual([1, 2, 7])
})
