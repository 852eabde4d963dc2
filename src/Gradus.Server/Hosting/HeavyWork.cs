namespace Gradus.Server.Hosting;

/// <summary>What takes long is done one after another, apart from the answers that the floor waits for, and is left as soon as whoever asked has gone.</summary>
public sealed class HeavyWork : IDisposable
{
    private readonly SemaphoreSlim turn = new(1);

    /// <summary>Waits for its turn and does it.</summary>
    public async Task<T> Do<T>(Func<CancellationToken, T> work, CancellationToken cancel)
    {
        await turn.WaitAsync(cancel);
        try
        {
            return await Task.Run(() => work(cancel), cancel);
        }
        finally
        {
            turn.Release();
        }
    }

    public void Dispose() => turn.Dispose();
}
