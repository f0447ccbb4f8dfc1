using System.Text;

namespace Cursus.Core.Clicks.Requests;

/// <summary>
/// Finds words of which at least one stands in every text that a regular expression matches. Looking for words takes a hundredth of the time that an
/// expression takes, so that hundreds of expressions need not be tried on a text that none of them can match, whoever made it up. Reads only as much
/// of the syntax as it understands: where it doesn't, it says that any text may match.
/// </summary>
internal sealed class NeededWords
{
    /// <summary>Shorter words stand everywhere.</summary>
    private const int Shortest = 2;

    private const int Most = 400;

    private readonly string expression;
    private int at;

    private NeededWords(string expression) => this.expression = expression;

    /// <summary>The words; null where a text may match without any that are known.</summary>
    public static List<string>? Of(string expression)
    {
        var reader = new NeededWords(expression);
        return reader.Alternatives() is { } words && reader.at == expression.Length ? words : null;
    }

    /// <summary>One of several: each must need a word.</summary>
    private List<string>? Alternatives()
    {
        List<string>? all = [];
        do
        {
            var words = Sequence();
            all = words is null || all is null ? null : [.. all, .. words];
        } while (Next('|'));
        return all is { Count: > 0 and <= Most } ? all : null;
    }

    /// <summary>One after the other: all are needed, of which the longest word tells most.</summary>
    private List<string>? Sequence()
    {
        List<string>? best = null;
        var word = new StringBuilder();
        while (at < expression.Length && expression[at] is not ('|' or ')'))
        {
            var (letter, words) = Piece();
            var isOptional = Quantifier(out var isRepeated);
            if (letter is { } one && !isOptional)
            {
                word.Append(one);
                if (isRepeated)
                {
                    EndWord();
                }

                continue;
            }

            EndWord();
            if (!isOptional)
            {
                Take(words);
            }
        }

        EndWord();
        return best;

        void EndWord()
        {
            Take(word.Length >= Shortest ? [word.ToString()] : null);
            word.Clear();
        }

        void Take(List<string>? words)
        {
            if (words is not null && (best is null || words.Min(w => w.Length) > best.Min(w => w.Length)))
            {
                best = words;
            }
        }
    }

    /// <summary>A letter, or something with needed words of its own, or anything else.</summary>
    private (char? Letter, List<string>? Words) Piece()
    {
        var first = expression[at++];
        switch (first)
        {
            case '(':
                return (null, Group());
            case '[':
                return (Class(), null);
            case '\\':
                return Escaped();
            case '.' or '^' or '$':
                return default;
            default:
                return (first, null);
        }
    }

    private (char? Letter, List<string>? Words) Escaped()
    {
        var escaped = at < expression.Length ? expression[at++] : 'x';

        // What is written as a number, or by a property, is not understood.
        at = escaped is 'x' or 'u' or 'c' or 'p' or 'P' or 'k' ? expression.Length + 1 : at;
        return char.IsAsciiLetterOrDigit(escaped) ? default : (escaped, null);
    }

    private List<string>? Group()
    {
        var isLookaround = false;
        if (Next('?'))
        {
            // Only groups that aren't counted and looks ahead or back occur; others are not understood.
            isLookaround = !Next(':');
            at += isLookaround ? 1 : 0;
        }

        var words = Alternatives();
        if (!Next(')'))
        {
            at = expression.Length + 1;
        }

        return isLookaround ? null : words;
    }

    /// <summary>One letter where the class is its capital and its small form, since words are looked for in both.</summary>
    private char? Class()
    {
        if (
            at + 2 < expression.Length
            && expression[at + 2] == ']'
            && char.IsAsciiLetter(expression[at])
            && char.ToUpperInvariant(expression[at]) == char.ToUpperInvariant(expression[at + 1])
        )
        {
            at += 3;
            return expression[at - 2];
        }

        // A bracket right after the beginning is a character.
        _ = Next('^');
        _ = Next(']');
        while (at < expression.Length && expression[at] != ']')
        {
            at += expression[at] == '\\' ? 2 : 1;
        }

        at++;
        return null;
    }

    private bool Quantifier(out bool isRepeated)
    {
        isRepeated = false;
        var isOptional = false;
        while (at < expression.Length && expression[at] is '?' or '*' or '+' or '{')
        {
            isOptional |= expression[at] is '?' or '*' || (expression[at] == '{' && expression[(at + 1)..].StartsWith('0'));
            isRepeated = true;
            at = expression[at] == '{' ? expression.IndexOf('}', at) + 1 : at + 1;
            if (at == 0)
            {
                at = expression.Length + 1;
            }
        }

        return isOptional;
    }

    private bool Next(char expected)
    {
        if (at >= expression.Length || expression[at] != expected)
        {
            return false;
        }

        at++;
        return true;
    }
}
