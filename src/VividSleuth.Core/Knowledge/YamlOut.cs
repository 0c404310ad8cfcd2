using System.Collections;
using System.Collections.Concurrent;
using System.Reflection;
using System.Text.Json;
using YamlDotNet.Serialization;
using YamlDotNet.Serialization.NamingConventions;

namespace VividSleuth.Core.Knowledge;

/// <summary>
/// Writes what a shop hands on as YAML that is read back as the same. What is as it would be without being said is left out, so that a person reads what
/// there is to know.
/// </summary>
internal static class YamlOut
{
    private static readonly ConcurrentDictionary<Type, (PropertyInfo Property, string? Unsaid)[]> Of = new();

    private static readonly ISerializer Yaml = new SerializerBuilder().DisableAliases().WithQuotingNecessaryStrings().Build();

    /// <param name="without">Properties of this type are of the program and not of the file.</param>
    public static string Write(object value, Type? without = null) => Yaml.Serialize(Plain(value, without)!);

    private static object? Plain(object? value, Type? without) =>
        value switch
        {
            null or string or bool or int or long or double or decimal => value,
            Enum e => HyphenatedNamingConvention.Instance.Apply(e.ToString()),
            IDictionary map => map.Keys.Cast<object>().ToDictionary(k => k.ToString()!, k => Plain(map[k], without)),
            IEnumerable list => list.Cast<object?>().Select(x => Plain(x, without)).ToList(),
            _ => Said(value)
                .Where(p => p.DeclaringType != without)
                .ToDictionary(p => CamelCaseNamingConvention.Instance.Apply(p.Name), p => Plain(p.GetValue(value), without)),
        };

    /// <summary>Properties whose value is another than that of a new one.</summary>
    private static IEnumerable<PropertyInfo> Said(object value) =>
        Of.GetOrAdd(
                value.GetType(),
                type =>
                {
                    var fresh = Activator.CreateInstance(type)!;
                    return
                    [
                        .. type.GetProperties(BindingFlags.Public | BindingFlags.Instance)
                            .Where(p => p.CanWrite && p.GetIndexParameters().Length == 0 && p.GetCustomAttribute<YamlIgnoreAttribute>() is null)
                            // What a class says itself before what it has of another.
                            .OrderBy(p => p.DeclaringType != type)
                            .Select(p => (p, Text(p.GetValue(fresh)))),
                    ];
                }
            )
            .Where(p => Text(p.Property.GetValue(value)) != p.Unsaid)
            .Select(p => p.Property);

    private static string? Text(object? value) => value is null ? null : JsonSerializer.Serialize(value, value.GetType());
}
