namespace InnerCadence.Core.Hands;

/// <summary>The standard rudiments and common hybrids (hands.md, "Rudiments"), in the form that <see cref="Rudiment"/> reads.</summary>
internal static class RudimentList
{
    public const string Text =
        """
        single strokes; rolls; 4; R; turns
        single stroke four; rolls; 6; R L R L> - -; same
        single stroke seven; rolls; 6; R L R L R L R> - - - - -; turns
        double strokes; rolls; 4; R R; turns
        five-stroke roll; rolls; 8; R R L L R> - - -; turns
        six-stroke roll; rolls; 8; R> - L L R R L> -; same
        seven-stroke roll; rolls; 8; R R L L R R L> -; same
        nine-stroke roll; rolls; 8; R R L L R R L L R> - - - - - - -; turns
        paradiddle; paradiddles; 4; R> L R R; turns
        double paradiddle; paradiddles; 6; R> L R L R R; turns
        triple paradiddle; paradiddles; 4; R> L R L R L R R; turns
        paradiddle-diddle; paradiddles; 6; R> L R R L L; same
        inward paradiddle; paradiddles; 4; R> L L R; turns
        flam; flams; 1; Rf; turns
        flam tap; flams; 4; Rf R Lf L; same
        flam accent; flams; 3; R>f L R; turns
        flamacue; flams; 4; Rf L> R L Rf - - -; turns
        flam paradiddle; flams; 4; R>f L R R; turns
        Swiss triplet; flams; 3; R>f R L; same
        drag; drags; 1; Rd; turns
        single drag tap; drags; 2; Rd L>; turns
        single ratamacue; drags; 6; Rd - L - R - L> - - - - -; turns
        double ratamacue; drags; 6; Rd - - - - - Rd - L - R - L> - - - - -; turns
        lesson figure; drags; 8; R R L> - R> - - -; turns
        herta; hybrids; 8; R L R - L - - -; same
        flam double; hybrids; 4; Rf R L L; turns
        hand hand foot; hands and foot; 3; R L K; same
        hand hand foot foot; hands and foot; 4; R L K K; same
        hand foot; hands and foot; 2; R K; turns
        paradiddle with the foot; hands and foot; 4; R> K R R; same
        six with the foot; hands and foot; 6; R L R L K K; same
        """;
}
