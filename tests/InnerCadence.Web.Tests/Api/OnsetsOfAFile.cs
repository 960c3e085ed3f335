using System.Net;
using System.Text.Json.Nodes;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Playing;

namespace InnerCadence.Web.Tests.Api;

/// <summary>A WAV file sent to be listened to: what comes back, and what is said of a file that is none.</summary>
public class OnsetsOfAFile(Application application) : IClassFixture<Application>
{
    private static readonly byte[] Groove = Wav.Write(
        Mixdown.Render(Rendition.Of(CountLines.Parse("tempo 100\nHH: 8ths | %x3\nSN: 2 4 | %x3\nBD: 1 3& | %x3").Passage), Synth.Render),
        2);

    private async Task<(HttpStatusCode Status, JsonNode Answer)> SendAsync(HttpContent body)
    {
        var response = await application.Client.PostAsync("/api/sound/onsets", body, TestContext.Current.CancellationToken);
        return (response.StatusCode, JsonNode.Parse(await response.Content.ReadAsStringAsync(TestContext.Current.CancellationToken))!);
    }

    [Fact]
    public async Task Says_what_was_struck_and_which_tempo_it_may_have()
    {
        var (status, answer) = await SendAsync(new ByteArrayContent(Groove));
        status.ShouldBe(HttpStatusCode.OK);
        answer["seconds"]!.GetValue<double>().ShouldBe((Groove.Length - 44) / 4 / 44100.0, 0.01);
        answer["onsets"]!.AsArray().Count(o => o!["family"]!.GetValue<string>() == "kick")
            .ShouldBe(8);
        answer["onsets"]!.AsArray().Select(o => o!["at"]!.GetValue<double>()).ShouldBeInOrder();
        answer["tempo"]!.AsArray().ShouldContain(t => Math.Abs(t!["bpm"]!.GetValue<double>() - 100) < 0.5);
    }

    [Fact]
    public async Task A_body_of_unknown_length_is_read_as_it_comes()
    {
        var (status, answer) = await SendAsync(new StreamContent(new Dribble(Groove)));
        status.ShouldBe(HttpStatusCode.OK);
        answer["onsets"]!.AsArray().Count.ShouldBe((await SendAsync(new ByteArrayContent(Groove))).Answer["onsets"]!.AsArray().Count);
    }

    public static TheoryData<byte[], string> Bad => new()
    {
        { [], "empty" },
        { [.. "MThd and more"u8], "no WAV file" },
        { Groove[..40], "cut off" },
        { Groove[..5000], "cut off" },
    };

    [Theory, MemberData(nameof(Bad))]
    public async Task What_is_no_whole_file_is_said(byte[] body, string told)
    {
        var (status, answer) = await SendAsync(new ByteArrayContent(body));
        status.ShouldBe(HttpStatusCode.BadRequest);
        answer["detail"]!.GetValue<string>().ShouldContain(told);
    }

    /// <summary>Gives a few bytes at a time and does not say how many there are.</summary>
    private sealed class Dribble(byte[] bytes) : Stream
    {
        private int at;

        public override int Read(byte[] buffer, int offset, int count)
        {
            var take = Math.Min(Math.Min(count, 3001), bytes.Length - at);
            Array.Copy(bytes, at, buffer, offset, take);
            at += take;
            return take;
        }

        public override bool CanRead => true;
        public override bool CanSeek => false;
        public override bool CanWrite => false;
        public override long Length => throw new NotSupportedException();
        public override long Position { get => at; set => throw new NotSupportedException(); }
        public override void Flush() { }
        public override long Seek(long offset, SeekOrigin origin) => throw new NotSupportedException();
        public override void SetLength(long value) => throw new NotSupportedException();
        public override void Write(byte[] buffer, int offset, int count) => throw new NotSupportedException();
    }
}
