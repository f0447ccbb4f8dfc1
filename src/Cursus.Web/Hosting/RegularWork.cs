namespace Cursus.Web.Hosting;

/// <summary>Work that is done again and again in the background. Of all processes of an installation one at a time does it; where it fails, it is
/// done the next time.</summary>
internal interface IRegularWork
{
    /// <summary>Does the work once. Whatever it throws is logged, and told in Settings.</summary>
    Task Run(CancellationToken cancel);
}

/// <summary>What work there is and how often it is done.</summary>
/// <param name="Key">Names it in the database and the API.</param>
/// <param name="Name">What people call it.</param>
/// <param name="What">What it does, in a sentence.</param>
/// <param name="Every">From one time to the next.</param>
/// <param name="Type">The <see cref="IRegularWork"/> that does it.</param>
internal sealed record RegularWork(string Key, string Name, string What, TimeSpan Every, Type Type);

/// <summary>Registers background work.</summary>
internal static class RegularWorkRegistration
{
    public static void AddRegularWork<T>(this IServiceCollection services, string key, string name, string what, TimeSpan every)
        where T : class, IRegularWork
    {
        services.AddScoped<T>();
        services.AddSingleton(new RegularWork(key, name, what, every, typeof(T)));
    }
}
