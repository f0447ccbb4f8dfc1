namespace Cursus.Core;

/// <summary>Why an input cannot be taken. <paramref name="Code"/> is stable and meant for programs;
/// <paramref name="Text"/> says to a person what is wrong and what to do next.</summary>
public sealed record ValidationError(string Code, string Text);
