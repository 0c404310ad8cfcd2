using System.Reflection;
using Microsoft.Extensions.DependencyInjection;
using VividSleuth.Core;

namespace VividSleuth.Server;

/// <summary>Holds all that a request brings against the rules for input before an endpoint sees it: body, address and form alike.</summary>
internal static class InputFilter
{
    public static RouteGroupBuilder CheckInput(this RouteGroupBuilder group)
    {
        group.AddEndpointFilterFactory(
            (factory, next) =>
            {
                var services = factory.ApplicationServices.GetRequiredService<IServiceProviderIsService>();
                var brought = factory.MethodInfo.GetParameters().Where(p => IsBrought(p, services)).Select(p => (p.Position, Name(p))).ToArray();
                return brought.Length == 0
                    ? next
                    : context =>
                    {
                        foreach (var (at, name) in brought)
                        {
                            InputRules.Checked(context.Arguments[at], name);
                        }

                        return next(context);
                    };
            }
        );
        return group;
    }

    private static bool IsBrought(ParameterInfo parameter, IServiceProviderIsService services)
    {
        var type = Nullable.GetUnderlyingType(parameter.ParameterType) ?? parameter.ParameterType;
        return type != typeof(Guid)
            && type != typeof(CancellationToken)
            && !typeof(HttpContext).IsAssignableFrom(type)
            && !typeof(HttpRequest).IsAssignableFrom(type)
            && !typeof(System.Security.Claims.ClaimsPrincipal).IsAssignableFrom(type)
            && !typeof(IFormFile).IsAssignableFrom(type)
            && !services.IsService(type);
    }

    /// <summary>Fields of a body go by their own names; what stands in the address goes by its name there.</summary>
    private static string Name(ParameterInfo parameter) =>
        parameter.ParameterType.Namespace?.StartsWith("VividSleuth", StringComparison.Ordinal) == true && !parameter.ParameterType.IsEnum
            ? ""
            : parameter.Name ?? "";
}
