<?php

declare(strict_types=1);

namespace YardBreak\Core\Rigid;

/** Every tolerance of the rigid solver, with its unit and what changes when it is changed. */
final class Tolerances
{
    /** Hz. Higher presses overlaps apart sooner; above a quarter of the sub-step rate contacts ring. */
    public const CONTACT_STIFFNESS = 60.0;

    /** Ratio to critical. Lower makes stacks springy, higher lets overlaps linger. */
    public const CONTACT_DAMPING = 10.0;

    /** Share of the mean piece size pieces may overlap unpunished. Zero makes resting contacts flicker. */
    public const SLOP = 0.002;

    /** Mean piece sizes a second. Limits how fast an overlap is pressed apart; more pops pieces. */
    public const PRESS_SPEED = 6.0;

    /** m/s. Slower approaches do not bounce; lower keeps pieces hopping. */
    public const BOUNCE_FROM = 0.15;

    /** Share of the size a pair may shift against each other before its contact points are made anew. */
    public const REUSE_SHIFT = 0.02;

    /** Radians; likewise for turning. Larger lets stacks wobble. */
    public const REUSE_TURN = 0.04;

    /** Mean piece sizes pieces may move against each other between two contact searches. Larger lets them sink in. */
    public const SEARCH_EVERY = 0.2;

    /** Share of the reach of its speed within which a pair is watched that will not meet as it moves now. Lower lets what is driven on by others sink in. */
    public const OFF_COURSE = 0.25;

    /** Mean piece sizes two bodies may be about to overlap by before the rest of the frame is searched more finely. */
    public const SEARCH_FINER_FROM = 0.5;

    /** Searches a frame from then on, about, and where what is thin is slow. */
    public const FINEST = 4;

    /** Share of their size below which the thickness of pieces is small. Higher looks for contacts of chunks oftener than they need. */
    public const THIN = 0.45;

    /** Share of their size below which pieces are plates, whose stacks are shored. Higher unsettles heaps of rods and shards. */
    public const PLATES = 0.05;

    /** Mean piece sizes a frame that thin pieces move against each other on average below which contacts are looked for as often as may be. */
    public const SLOW = 0.15;

    /** Contact searches a frame at most. Fewer reach so far, where small pieces fly apart, that most of them meet most others. */
    public const MOST_SEARCHES = 12;

    /** Mean piece sizes of overlap with which a body does not come to rest for a while. */
    public const REST_OVERLAP = 0.04;

    /** Likewise in mean thicknesses; the less of the two counts. */
    public const REST_OVERLAP_THIN = 0.04;

    /** Seconds after which it may rest all the same: what is jammed stays jammed. */
    public const JAMMED_AFTER = 1.5;

    /** Seconds a body must keep still to come to rest. Shorter can freeze a piece at the top of a hop. */
    public const REST_AFTER = 0.25;

    /** Seconds of being slow after which a body that does not rest twitches. Shorter counts what only comes to a stop. */
    public const TWITCHES_AFTER = 1.0;

    /** m/s of what others stand on up to which these are stopped as if it stood fast. Higher takes the swing out of what collapses; none lets high stacks of thin things sink into each other. */
    public const SHORED_SPEED = 0.5;

    /** Seconds of keeping still after which a body loses speed, so that it does not creep. */
    public const CALM_AFTER = 0.12;

    /** What is left of such a body's speed after each search. One would let piles creep for seconds. */
    public const CALMING = 0.6;

    /** Share of its size a body may move within that time and still count as still. */
    public const REST_SHIFT = 0.015;

    /** m/s a resting body would gain from a hit before it wakes, and above which none counts as still. Lower lets a pile shiver on. */
    public const WAKE_SPEED = 0.12;

    /** m/s with which what is driven comes against a resting body that wakes it. Higher lets what is driven slowly sink into it first. */
    public const DRIVEN_SPEED = 1e-3;

    /** Share of its size a support may move before what rests on it wakes. */
    public const WAKE_SHIFT = 0.06;

    /** Times the fastest that anything was let go, driven or fell that what touches others may reach. Higher shoots out what is pinched. */
    public const FASTEST = 2.0;

    /** Mean piece sizes of overlap above which two bodies are moved apart outright. Lower makes piles shiver. */
    public const LOCKED_OVERLAP = 0.02;

    /** Likewise in mean thicknesses; the less of the two counts. */
    public const LOCKED_OVERLAP_THIN = 0.02;

    /** Share of the overlap above that taken out after each search. More pops pieces out of a jam. */
    public const UNLOCKING = 0.2;
}
