using InnerCadence.Core.Music;
using InnerCadence.Web.Pages.Shared;

namespace InnerCadence.Web.Tests.Pages;

/// <summary>A stretch of a recording, with its loop and its speed, has an address.</summary>
public class ListeningAtAPlace
{
    [Fact]
    public void The_address_names_clock_times_and_no_loop_that_ends_before_it_begins()
    {
        ListenLink.Of(new(7), new(43_000), new(47_250)).ShouldBe("/recordings/7/listen?from=0:43&to=0:47.250");
        ListenLink.Of(new(7), new(43_000)).ShouldBe("/recordings/7/listen?from=0:43");
        ListenLink.Of(new(7), new(43_000), new(43_000)).ShouldBe("/recordings/7/listen?from=0:43");
    }
}
