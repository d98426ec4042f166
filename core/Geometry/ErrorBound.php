<?php

declare(strict_types=1);

namespace Isotome\Geometry;

/**
 * How far computed signs can be trusted: every filter of an exact predicate takes its bound from here.
 *
 * A bound is a multiple of the unit roundoff u: one operation on doubles errs by at most u times its result (IEEE 754, rounding to nearest). It is
 * multiplied by the sum of the absolute values of the products that were added or subtracted; a result larger than that has the right sign.
 * Source of the way of counting, and of the two bounds of Shewchuk's: J. R. Shewchuk, "Adaptive Precision Floating-Point Arithmetic and Fast Robust Geometric
 * Predicates", Discrete & Computational Geometry 18 (1997).
 */
final class ErrorBound
{
    /** u = 2⁻⁵³. */
    public const UNIT = 1.1102230246251565e-16;

    /** Two products of two differences each, subtracted: (3 + 16u)u, Shewchuk's bound for the orientation of three points in the plane. */
    public const ORIENT_2D = 3.3306690738754716e-16;

    /** A determinant of three rows of differences: (7 + 56u)u, Shewchuk's bound for the orientation of four points in space. */
    public const ORIENT_3D = 7.7715611723761027e-16;

    /**
     * A part of a cross product of differences, and its scalar product with a third difference. Each difference errs by u, each product by u, their difference
     * by u: 4u for the part; the third difference, the outer product and the two sums add at most 3u. 7u and what is of second order, rounded up.
     */
    public const TRIPLE = 8e-16;

    /** Of a point against a plane: the scalar product of three terms errs by less than 4u, a point on an edge, which was computed itself, by less than 4u; doubled. */
    public const POINT_TO_PLANE = 16 * self::UNIT;

    /**
     * Of a point from the plane of a triangle, times its normal's length; multiplied by the extent and the square of the edges' size. Each part of the normal, a cross
     * product of differences, errs by at most 4u of that square; its three products with coordinates, the plane's own and the sums make less than 40u. More than
     * twice that is taken, because what passes is decided exactly afterwards.
     */
    public const TRIANGLE_TO_PLANE = 1e-14;
}
