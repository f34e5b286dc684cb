<?php

declare(strict_types=1);

namespace YardBreak\Core\Break\Cut;

/**
 * Convex cells that fill space, with the walls between them, the lines where walls meet, and the nodes where
 * lines meet.
 */
interface CellComplex
{
    /** @return array{list<int>, list<int>} where each cell's neighbours begin in the second list, which holds them; one entry more than cells */
    public function neighbours(): array;

    /** @return list<float> for each entry of the neighbours the plane to it as four numbers a, b, c, d; ax + by + cz + d is positive on the cell's own side */
    public function planes(): array;

    /**
     * @param  list<float>  $px
     * @param  list<float>  $py
     * @param  list<float>  $pz
     * @return list<int> the cell each point lies in
     */
    public function owners(array $px, array $py, array $pz): array;

    /** The line where a cell's walls to two neighbours meet; the same number from every cell round it. */
    public function lineOf(int $cell, int $one, int $other): int;

    /**
     * Adds to the walls the parts of the complex's lines that run inside the solid. Which they are follows from the
     * surface crossings alone: each crossing changes from outside to inside or back.
     *
     * @param  array<int, array<int, int>>  $walls  by the lower cell times the number of cells plus the higher: directed segments, counter-clockwise seen
     *   from the higher cell
     * @param  array<int, list<int>>  $crossings  points of the surface by line
     * @param  list<float>  $px  nodes that lie inside are appended
     * @param  list<float>  $py
     * @param  list<float>  $pz
     *
     * @throws \UnexpectedValueException where they contradict each other
     */
    public function addInnerLines(array &$walls, array $crossings, array &$px, array &$py, array &$pz): void;
}
